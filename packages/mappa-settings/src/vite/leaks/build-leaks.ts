import { dirname, resolve } from 'node:path'
import type { Plugin } from 'vite'
import type { Session } from '../session/session.ts'
import { endLast } from './end-last.ts'
import { OutputSearch } from './output-search.ts'

/**
 * Searches everything that a build makes for values that no page may hold: before it is written, and once more at the very end,
 * whoever has written it, and whether or not the build comes to its end. It has to be the last of all plugins. Nothing is ever
 * deleted: the build can't know who wrote a file.
 */
export function checkLeaks(session: Session): Plugin {
  const output = new OutputSearch(session)
  /** What this build has written, and not one before it. */
  let writing: Writing = NOTHING_WRITTEN
  /** Another plugin has failed; what it wrote before that stays, and nobody else would say so. */
  const tellLeaks = async () => {
    const leak = await output.searchDisk()
    if (leak !== null) session.config!.logger.error(leak.message)
  }
  session.findOnDisk = () => output.findOnDisk()
  endApp(session, output, tellLeaks)
  const plugin: Plugin = {
    name: 'mappa:leaks',
    options(given) {
      endLast(given.plugins, plugin.name, tellLeaks)
      return null
    },
    buildStart() {
      if (this.environment.config.consumer !== 'client' || session.state.inspection === null) return
      // A build that watches reads the settings again while it begins.
      if (!this.meta.watchMode) output.prepare()
    },
    async buildEnd(error) {
      const isClient = this.environment.config.consumer === 'client'
      if (this.meta.watchMode && isClient && session.state.inspection !== null) output.prepare()
      if (error === undefined) await output.mustServeNothing()
      else await output.settle()
    },
    generateBundle: {
      order: 'post',
      async handler(options, bundle) {
        const { config } = this.environment
        if (config.consumer === 'client') await output.mustNotHold(bundle)
        if (!config.build.write) return
        // Before it is written: another plugin may fail while it is, and some bundlers then call nobody else.
        writing = { ...writing, isUnfinished: true }
        if (config.consumer === 'client') for (const each of listDirectories(options, config)) output.addDirectory(each)
      },
    },
    writeBundle() {
      writing = { isPage: writing.isPage || this.environment.config.consumer === 'client', isUnfinished: false }
    },
    closeBundle: {
      order: 'post',
      sequential: true,
      async handler() {
        if (!this.meta.watchMode) session.run = null
        const ending = { ...writing, isWatching: this.meta.watchMode }
        writing = NOTHING_WRITTEN
        await endBuild(session, output, ending)
      },
    },
    buildApp: { order: 'post', handler: () => mustHoldNothing(output) },
  }
  return plugin
}

/** Where a build has written to. Files that are served as they are go to a place of their own, wherever the rest goes. */
function listDirectories(
  { dir, file }: { readonly dir?: string | undefined; readonly file?: string | undefined },
  { root, build }: { readonly root: string; readonly build: { readonly outDir: string } },
): readonly string[] {
  const given = [dir, file === undefined ? undefined : dirname(file), build.outDir]
  return given.flatMap((each) => (each === undefined ? [] : [resolve(root, each)]))
}

/** How far a build has come. */
interface Writing {
  /** True where pages are written, and not a server. */
  readonly isPage: boolean
  /** True where the build ended while it wrote: another plugin has failed. */
  readonly isUnfinished: boolean
}

const NOTHING_WRITTEN: Writing = { isPage: false, isUnfinished: false }

/** Says what was found in the end. A server that is built later may render into the directory of the pages. */
async function endBuild(
  session: Session,
  output: OutputSearch,
  { isPage, isUnfinished, isWatching }: Writing & { readonly isWatching: boolean },
): Promise<void> {
  const leak = await output.searchDisk()
  const { logger } = session.config!
  // An error would end a build that watches, and some bundlers would not show it; and it would hide that of another plugin.
  if (leak !== null && !isWatching && !isUnfinished) throw leak
  if (leak !== null) return logger.error(leak.message)
  if (!isPage) return
  const { text, isComplete } = output.summarize()
  if (isComplete) logger.info(text)
  else logger.warn(text)
}

/** Has a build of several environments end with the search, also where what builds them comes from the configuration. */
function endApp({ config }: Session, output: OutputSearch, tellLeaks: () => Promise<void>): void {
  const builder = config?.builder
  if (builder?.buildApp === undefined) return
  const { buildApp } = builder
  ;(config as { builder?: typeof builder }).builder = {
    ...builder,
    async buildApp(...words) {
      try {
        await buildApp.apply(this, words)
      } catch (error) {
        await tellLeaks()
        throw error
      }
      await mustHoldNothing(output)
    },
  }
}

async function mustHoldNothing(output: OutputSearch): Promise<void> {
  const leak = await output.searchDisk()
  if (leak !== null) throw leak
}
