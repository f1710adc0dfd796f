import type { IncomingMessage } from 'node:http'

/** True for a request of a whole page, as against one of code, styles or data. */
export function isPageRequest({ method, headers }: IncomingMessage): boolean {
  return (method === 'GET' || method === 'HEAD') && headers.accept?.includes('text/html') === true
}
