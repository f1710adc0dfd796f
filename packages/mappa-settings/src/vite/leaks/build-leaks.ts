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
  /** True where this build has written pages, and not one before it. */
  let hasWritten = false
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
      async handler(_options, bundle) {
        if (this.environment.config.consumer === 'client') await output.mustNotHold(bundle)
      },
    },
    writeBundle(options) {
      const { config } = this.environment
      if (config.consumer !== 'client') return
      hasWritten = true
      for (const each of listDirectories(options, config)) output.addDirectory(each)
    },
    closeBundle: {
      order: 'post',
      sequential: true,
      async handler() {
        if (!this.meta.watchMode) session.run = null
        const isWritten = hasWritten
        hasWritten = false
        await endBuild(session, output, { isWritten, isWatching: this.meta.watchMode })
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

/** What has happened in a build. */
interface Ending {
  /** True where it has written pages. */
  readonly isWritten: boolean
  readonly isWatching: boolean
}

/** Says what was found in the end. A server that is built later may render into the directory of the pages. */
async function endBuild(session: Session, output: OutputSearch, { isWritten, isWatching }: Ending): Promise<void> {
  const leak = await output.searchDisk()
  const { logger } = session.config!
  // An error would end a build that watches, and some bundlers would not show it.
  if (leak !== null && !isWatching) throw leak
  if (leak !== null) return logger.error(leak.message)
  if (!isWritten) return
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
