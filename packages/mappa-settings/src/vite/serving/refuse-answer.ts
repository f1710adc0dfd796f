import type { IncomingMessage, ServerResponse } from 'node:http'
import { writeProblemCode, writeProblemDocument } from './problem-page.ts'
import { isPageRequest } from './requests.ts'

/**
 * Makes an answer that says in the place of another one that it is refused: to a page or a script with what shows the problem page.
 *
 * @param refused what is not served, as a person calls it
 * @returns what to send
 */
export function refuseAnswer(
  request: IncomingMessage,
  response: ServerResponse,
  refused: string,
  ask: string | null,
): string {
  for (const name of response.getHeaderNames())
    if (/^(?:content-|etag|last-modified|sourcemap|accept-ranges)/i.test(name)) response.removeHeader(name)
  const [status, type, body] = chooseAnswer(request, refused, ask)
  response.statusCode = status
  // HTTP/2 has no such text, and warns of it.
  if (request.httpVersionMajor < 2) response.statusMessage = ''
  response.setHeader('content-type', `${type}; charset=utf-8`)
  response.setHeader('cache-control', 'no-store')
  response.setHeader('content-length', Buffer.byteLength(body))
  return body
}

function chooseAnswer(
  request: IncomingMessage,
  refused: string,
  ask: string | null,
): readonly [number, string, string] {
  const asFor = ask === null ? '' : request.headers['sec-fetch-dest']
  if (ask !== null && asFor === 'script')
    return [200, 'text/javascript', `${writeProblemCode(ask)}export default undefined\n`]
  if (asFor === 'style') return [200, 'text/css', '']
  if (ask !== null && isPageRequest(request)) return [500, 'text/html', writeProblemDocument(ask)]
  return [403, 'text/plain', `${refused} is not for pages, and mappa-settings/vite does not serve it.\n`]
}
