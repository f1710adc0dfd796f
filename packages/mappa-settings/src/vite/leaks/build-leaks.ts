import { dirname, resolve } from 'node:path'
import type { Plugin } from 'vite'
import type { Session } from '../session/session.ts'
import { OutputSearch } from './output-search.ts'

/**
 * Searches everything that a build makes for values that no page may hold: before it is written, and once more at the very end,
 * whoever has written it. It has to be the last of all plugins. Nothing is ever deleted: the build can't know who wrote a file.
 */
export function leakCheck(session: Session): Plugin {
  const output = new OutputSearch(session)
  return {
    name: 'mappa:leaks',
    buildStart() {
      if (this.environment.config.consumer !== 'client' || session.state.inspection === null) return
      output.checkOptions()
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
      handler(_options, bundle) {
        if (this.environment.config.consumer === 'client') output.mustNotHold(bundle)
      },
    },
    writeBundle({ dir, file }) {
      const { consumer, root, build } = this.environment.config
      if (consumer !== 'client') return
      // Files that are served as they are go there, wherever the rest goes.
      for (const each of [dir, file === undefined ? undefined : dirname(file), build.outDir])
        if (each !== undefined) output.addDirectory(resolve(root, each))
    },
    closeBundle: {
      order: 'post',
      sequential: true,
      handler() {
        // Also what a server, built later, renders into the directory of the pages.
        if (!output.hasOutput) return
        const leak = output.searchDisk()
        const { logger } = session.config!
        if (leak !== null) {
          // An error would end a build that watches, and some bundlers would not show it.
          if (!this.meta.watchMode) throw leak
          logger.error(leak.message)
        } else if (this.environment.config.consumer === 'client') {
          const { text, isComplete } = output.summarize()
          if (isComplete) logger.info(text)
          else logger.warn(text)
        }
      },
    },
    buildApp: {
      order: 'post',
      async handler() {
        const leak = output.hasOutput ? output.searchDisk() : null
        if (leak !== null) throw leak
      },
    },
  }
}
