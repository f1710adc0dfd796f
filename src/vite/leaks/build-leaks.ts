import { relative, resolve } from 'node:path'
import type { Plugin } from 'vite'
import { locate, type Problem } from '../../core/problems/problem.ts'
import { pageError, type Session } from '../session.ts'
import { checkMayAppear } from './may-appear.ts'
import type { Search } from './search.ts'

type Bundle = Parameters<Extract<Plugin['generateBundle'], (...words: never) => unknown>>[1]

/** Searches everything that a build makes for values that no page may hold, and what lies behind the build. */
export function leakCheck(session: Session): Plugin {
  let search: Search = { needles: [], notSearched: [] }
  /** The length of each file that was searched, in bytes, by its name. */
  const searched = new Map<string, number>()
  let check: typeof import('./search.ts')
  const look = (file: string, content: string | Uint8Array): Problem[] => {
    const text = check.bytewise(content)
    searched.set(file, text.length)
    return check.leaksIn(file, text, typeof content === 'string', search, session.look.inspection?.settings ?? [])
  }
  const lookAtAll = (bundle: Bundle): Problem[] =>
    Object.values(bundle).flatMap((each) => {
      if (each.type === 'asset') return look(each.fileName, each.source)
      const mapFile = `${each.fileName}.map`
      // Most maps are files of their own; to get at one here takes long.
      const map = mapFile in bundle || !each.map ? [] : look(mapFile, JSON.stringify(each.map))
      const found = look(each.fileName, each.code).map((one) => withSources(one, each.modules))
      return [...found, ...map]
    })
  /** A problem with a chunk, told from which of its modules the value comes. */
  const withSources = (
    found: Problem,
    modules: Readonly<Record<string, { readonly code: string | null }>>,
  ): Problem => {
    const from = Object.entries(modules)
      .filter(([id, { code }]) =>
        check.leaksIn(id, check.bytewise(code ?? ''), true, search, []).some(({ name }) => name === found.name),
      )
      .map(([id]) => `from ${relative(session.look.root, id)}`)
    return from.length === 0 ? found : locate(found, { trail: from })
  }
  let written = false
  let prepared: Promise<readonly Problem[]> = Promise.resolve([])
  /** Gets everything ready for the search, and looks through what is served as it is. */
  const prepare = async (): Promise<readonly Problem[]> => {
    check = await import('./search.ts')
    const { look: known, options, config } = session
    search = check.triedOut(check.searchFor(known.inspection!, options.mayAppear ?? []))
    const { publicDir, build } = config!
    if (publicDir === '' || !build.copyPublicDir) return []
    return check.servedFiles(publicDir).flatMap(({ file, read }) => look(file, read()))
  }
  return {
    name: 'mappa:leaks',
    apply: 'build',
    enforce: 'post',
    buildStart() {
      const { look: known, options } = session
      if (this.environment.config.consumer !== 'client' || known.inspection === null) return
      const problems = checkMayAppear(known.definition!.settings, options.mayAppear ?? [])
      if (problems.length > 0) throw pageError(problems, session)
      // A build that watches looks at the settings anew while it begins.
      if (this.meta.watchMode) return
      // Nobody waits for this: it is done while the bundler is busy with the modules of the page.
      prepared = prepare()
      prepared.catch(() => {})
    },
    async buildEnd(error) {
      const isClient = this.environment.config.consumer === 'client'
      if (this.meta.watchMode && isClient && session.look.inspection !== null) prepared = prepare()
      const problems = await prepared
      // Files that are served as they are lie on the disk before the rest is made.
      if (error === undefined && problems.length > 0) throw pageError(problems, session)
    },
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        const { consumer, build } = this.environment.config
        if (consumer !== 'client') return
        // What leaks never gets onto the disk.
        const problems = lookAtAll(bundle)
        if (problems.length > 0) throw pageError(problems, session)
        written = build.write
      },
    },
    closeBundle: {
      order: 'post',
      handler() {
        if (this.environment.config.consumer !== 'client' || !written) return
        const { config } = session
        const problems = check
          .servedFiles(resolve(config!.root, this.environment.config.build.outDir))
          .filter(({ file, size }) => searched.get(file) !== size)
          .flatMap(({ file, read }) => look(file, read()))
        if (problems.length > 0) throw pageError(problems, session)
        config!.logger.info(summary(searched.size, search))
      },
    },
  }
}

function summary(files: number, { needles, notSearched }: Search): string {
  const names = new Set(needles.map((each) => each.name)).size
  const lines = [
    `mappa: ${files} file${files === 1 ? '' : 's'} searched, and none holds the value of a private setting (${names} looked for)`,
  ]
  const reasons = new Map<string, string[]>()
  for (const { name, reason } of notSearched) reasons.set(reason, [...(reasons.get(reason) ?? []), name])
  if (reasons.size > 0) lines.push('mappa: not searchable, so not looked for:')
  for (const [reason, own] of reasons) lines.push(`  ${own.join(', ')}: ${reason}`)
  return lines.join('\n')
}
