import { dirname, resolve } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Plugin } from 'vite'
import { type Session, toPageError } from '../session/session.ts'
import { checkAllowInPage } from './allow-in-page.ts'
import type { Place, Search, ValueFiles } from './search.ts'

type Bundle = Parameters<Extract<Plugin['generateBundle'], (...words: never) => unknown>>[1]

/**
 * Searches everything that a build makes for values that no page may hold: before it is written, and once more at the very end,
 * whoever has written it. It has to be the last of all plugins. Nothing is ever deleted: the build can't know who wrote a file.
 */
export function leakCheck(session: Session): Plugin {
  let search: Search = { needles: [], notSearched: [] }
  let valueFiles: ValueFiles
  /** What was searched, by its name in the output. */
  const searched = new Map<string, string>()
  /** The directories that pages are served from. */
  const directories = new Set<string>()
  let check: typeof import('./search.ts')
  const state = (file: string, content: string | Uint8Array, place?: Place): Problem[] => {
    const text = check.bytewise(content)
    searched.set(file, text)
    const whole = valueFiles.findProblems(file, text, place)
    if (whole.length > 0) return whole
    const settings = session.state.inspection?.settings ?? []
    return check.findLeaks(file, text, typeof content === 'string', search, settings, place?.shown)
  }
  const searchBundle = (bundle: Bundle): Problem[] =>
    Object.values(bundle).flatMap((each) => {
      if (each.type === 'asset') return state(each.fileName, each.source)
      const mapFile = `${each.fileName}.map`
      // Most maps are files of their own; to get at one here takes long.
      const map = mapFile in bundle || !each.map ? [] : state(mapFile, JSON.stringify(each.map))
      const found = state(each.fileName, each.code).map((one) => withSources(one, each.modules))
      return [...found, ...map]
    })
  /** A problem with a chunk, told from which of its modules the value comes. */
  const withSources = (
    found: Problem,
    modules: Readonly<Record<string, { readonly code: string | null }>>,
  ): Problem => {
    const from = Object.entries(modules)
      .filter(([id, { code }]) =>
        check.findLeaks(id, check.bytewise(code ?? ''), true, search, []).some(({ name }) => name === found.name),
      )
      .map(([id]) => check.getSource(id, found, session))
    return from.length === 0 ? found : withLocation(found, { importTrace: [...new Set(from)] })
  }
  let prepared: Promise<readonly Problem[]> = Promise.resolve([])
  /** Gets everything ready for the search, and looks through what is served as it is. */
  const prepare = async (): Promise<readonly Problem[]> => {
    check = await import('./search.ts')
    const { state: known, options, config } = session
    search = check.verifySearch(check.prepareSearch(known.inspection!, options.allowInPage ?? []))
    valueFiles = new check.ValueFiles(known)
    search = check.addNotRead(search, valueFiles.notRead)
    const { publicDir, build } = config!
    if (publicDir === '' || !build.copyPublicDir) return []
    return check.listServedFiles(publicDir).flatMap(({ file, read }) => state(file, read(), { directory: publicDir }))
  }
  const findLeaks = (directory: string): Problem[] => {
    const shown = toRelativePath(session.config!.root, directory)
    return check.listServedFiles(directory).flatMap(({ file, read }) => {
      const bytes = read()
      if (searched.get(file) === check.bytewise(bytes)) return []
      const found = state(file, bytes, { directory, shown })
      // A build that watches searches it again.
      if (found.length > 0) searched.delete(file)
      return found
    })
  }
  /**
   * Looks through everything that is on the disk and was not searched as it is, and names what leaks.
   *
   * @param isWatching true for a build that goes on: an error at its end would end it, and some bundlers would not show it
   * @returns true where nothing leaks
   */
  const searchDisk = (isWatching: boolean): boolean => {
    const problems = [...directories].flatMap(findLeaks)
    if (problems.length === 0) return true
    const files = [...new Set(problems.flatMap((each) => each.file ?? []))]
    const error = toPageError([...problems, pageProblem('leaks-on-disk', { files })], session)
    if (!isWatching) throw error
    session.config!.logger.error(error.message)
    return false
  }
  return {
    name: 'mappa:leaks',
    buildStart() {
      const { state: known, options } = session
      if (this.environment.config.consumer !== 'client' || known.inspection === null) return
      const problems = checkAllowInPage(known.definition!.settings, options.allowInPage ?? [])
      if (problems.length > 0) throw toPageError(problems, session)
      // A build that watches reads the settings again while it begins.
      if (this.meta.watchMode) return
      // Nobody waits for this: it is done while the bundler is busy with the modules of the page.
      prepared = prepare()
      prepared.catch(() => {})
    },
    async buildEnd(error) {
      const isClient = this.environment.config.consumer === 'client'
      if (this.meta.watchMode && isClient && session.state.inspection !== null) prepared = prepare()
      const problems = await prepared
      // Files that are served as they are lie on the disk before the rest is made.
      if (error === undefined && problems.length > 0) throw toPageError(problems, session)
    },
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        if (this.environment.config.consumer !== 'client') return
        // What leaks never gets onto the disk.
        const problems = searchBundle(bundle)
        if (problems.length > 0) throw toPageError(problems, session)
      },
    },
    writeBundle({ dir, file }) {
      const { consumer, root, build } = this.environment.config
      if (consumer !== 'client') return
      // Files that are served as they are go there, wherever the rest goes.
      for (const each of [dir, file === undefined ? undefined : dirname(file), build.outDir])
        if (each !== undefined) directories.add(resolve(root, each))
    },
    closeBundle: {
      order: 'post',
      sequential: true,
      handler() {
        // Also what a server, built later, renders into the directory of the pages.
        if (directories.size === 0) return
        const isClean = searchDisk(this.meta.watchMode)
        if (isClean && this.environment.config.consumer === 'client')
          session.config!.logger.info(check.summarize(searched.size, search))
      },
    },
    buildApp: {
      order: 'post',
      async handler() {
        if (directories.size > 0) searchDisk(false)
      },
    },
  }
}
