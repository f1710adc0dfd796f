import type { IncomingMessage, ServerResponse } from 'node:http'
import { withPayload, writePayload } from '@mappa/core/page/payload'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'

/** Holds back the page of an answer, and puts its runtime settings into it. */
export function fillAnswer(
  request: IncomingMessage,
  response: ServerResponse,
  settings: readonly ResolvedSetting[],
): void {
  const payload = writePayload(settings)
  // What is packed or not sent at all can't be filled.
  for (const header of ['accept-encoding', 'if-none-match', 'if-modified-since', 'range'])
    delete request.headers[header]
  const pieces: Buffer[] = []
  const { writeHead, end } = response
  let status = 200
  let headers: Record<string, unknown> = {}
  response.writeHead = ((code: number, ...rest: unknown[]) => {
    status = code
    headers = { ...(rest.at(-1) as object | undefined) }
    return response
  }) as never
  response.write = ((piece: Uint8Array | string) => pieces.push(Buffer.from(piece as string)) > 0) as never
  response.end = ((piece?: unknown) => {
    if (typeof piece === 'string' || piece instanceof Uint8Array) pieces.push(Buffer.from(piece as string))
    let body = Buffer.concat(pieces)
    const type = Object.entries(headers).find(([name]) => name.toLowerCase() === 'content-type')?.[1]
    if (String(type ?? response.getHeader('content-type')).startsWith('text/html')) {
      body = Buffer.from(withPayload(body.toString(), payload))
      for (const name of Object.keys(headers)) if (/^(content-length|etag)$/i.test(name)) delete headers[name]
      response.removeHeader('content-length')
      response.removeHeader('etag')
    }
    writeHead.call(response, status === 200 ? response.statusCode : status, headers as never)
    return end.call(response, body as never, 'utf8' as never)
  }) as never
}
