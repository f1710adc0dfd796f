import type { IncomingMessage } from 'node:http'
import type { Connect, ResolvedConfig } from 'vite'

/** True for a request of a whole page, as against one of code, styles or data. */
export function isPageRequest({ method, headers }: IncomingMessage): boolean {
  return (method === 'GET' || method === 'HEAD') && headers.accept?.includes('text/html') === true
}

/** Where open pages ask whether something is wrong. */
export function toAskPath({ base }: ResolvedConfig): string {
  return `${base}@mappa/problems`
}

/** Puts something before all that answers, also before what other plugins have put there. */
export function putFirst(middlewares: Connect.Server, handle: Connect.NextHandleFunction): void {
  middlewares.stack.unshift({ route: '', handle })
}
