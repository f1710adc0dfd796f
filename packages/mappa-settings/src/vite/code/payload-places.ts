import { hasPayloadPlace, payloadElement, withPayload, writePayload } from '@mappa/core/page/payload'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { formatReport } from '@mappa/core/problems/report'
import { PAYLOAD_ID } from '@mappa/core/values/payload-schema'
import type { IndexHtmlTransformContext, Plugin } from 'vite'
import type { Session } from '../session/session.ts'
import { RUNTIME_ID } from './modules.ts'

/** Gives pages the place of their runtime settings: filled while serving, empty in a build, so that one build serves every stage. */
export function payloadPlaces(session: Session): Plugin {
  /** The bytes that each page carries, by its name. */
  const carried = new Map<string, number>()
  return {
    name: 'mappa:payload',
    transformIndexHtml: {
      order: 'post',
      handler(html, context) {
        const payload = writePayload(session.state.inspection?.settings ?? [])
        if (payload === '') return
        const serving = context.bundle === undefined
        if (!serving && !readsStartValues(context)) return
        if (!serving) carried.set(context.path.replace(/^\//, ''), Buffer.byteLength(payload))
        if (hasPayloadPlace(html)) return serving ? withPayload(html, payload) : undefined
        const children = serving ? payload.slice(payloadElement('').indexOf('</'), payload.lastIndexOf('</')) : ''
        const attrs = { type: 'application/json', id: PAYLOAD_ID }
        return [{ tag: 'script', attrs, children, injectTo: 'head' }]
      },
    },
    // Some versions make their pages at this time, as plugins of their own.
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        if (this.environment.config.consumer !== 'client' || carried.size > 0) return
        const reads = Object.values(bundle).some(
          (each) => each.type === 'chunk' && (each.modules[RUNTIME_ID]?.renderedLength ?? 0) > 0,
        )
        const isPage = Object.keys(bundle).some((each) => each.endsWith('.html'))
        // A framework that makes its own pages has to fill them, and nobody else can tell it so.
        if (reads && !isPage)
          session.config!.logger.warn(
            formatReport({
              title: 'The page',
              stage: session.state.report.stage,
              problems: [pageProblem('payload-without-page', {})],
            }),
          )
      },
    },
    writeBundle() {
      const { config, state } = session
      for (const [page, bytes] of carried) {
        config!.logger.info(
          `mappa: ${page} carries ${bytes} bytes of runtime settings with each page load (with the values of ${state.report.stage})`,
        )
      }
      carried.clear()
    },
  }
}

/** True for a page whose code reads a runtime setting, also in a part that is loaded later. */
function readsStartValues({ bundle, chunk }: IndexHtmlTransformContext): boolean {
  const seen = new Set<string>()
  const reads = (name: string): boolean => {
    const each = bundle?.[name]
    if (each?.type !== 'chunk' || seen.has(name)) return false
    seen.add(name)
    if ((each.modules[RUNTIME_ID]?.renderedLength ?? 0) > 0) return true
    return [...each.imports, ...each.dynamicImports].some(reads)
  }
  return chunk !== undefined && reads(chunk.fileName)
}
