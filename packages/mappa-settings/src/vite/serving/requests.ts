import type { IncomingMessage } from 'node:http'
import type { ResolvedConfig } from 'vite'

/** True for a request of a whole page, as against one of code, styles or data. */
export function isPageRequest({ method, headers }: IncomingMessage): boolean {
  return (method === 'GET' || method === 'HEAD') && headers.accept?.includes('text/html') === true
}

/** Where open pages ask whether something is wrong. */
export function toAskPath({ base }: ResolvedConfig): string {
  return `${base}@mappa/problems`
}
