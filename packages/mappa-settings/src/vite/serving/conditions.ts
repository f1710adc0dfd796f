import type { IncomingHttpHeaders, ServerResponse } from 'node:http'

/**
 * Answers what a request asks for of an answer that is known as a whole: nothing where it has the same already, or a part of it (RFC
 * 9110, 13.1.2 and 14.2).
 *
 * @param response has the status and headers of the whole answer; they are changed to those of what is sent
 * @returns what to send
 */
export function answerCondition(asked: IncomingHttpHeaders, response: ServerResponse, bytes: Buffer): Buffer {
  if (response.statusCode !== 200) return withLength(response, bytes)
  const etag = response.getHeader('etag')
  if (etag !== undefined && asked['if-none-match'] === String(etag)) {
    response.statusCode = 304
    response.removeHeader('content-length')
    return Buffer.alloc(0)
  }
  const range = response.getHeader('accept-ranges') === 'bytes' || asked.range !== undefined ? asked.range : undefined
  const [, from, to] = /^bytes=(\d*)-(\d*)$/.exec(range ?? '') ?? []
  if (from === undefined || (from === '' && to === '')) return withLength(response, bytes)
  const start = from === '' ? Math.max(0, bytes.length - Number(to)) : Number(from)
  const end = from === '' || to === '' ? bytes.length - 1 : Math.min(Number(to), bytes.length - 1)
  if (start > end) {
    response.statusCode = 416
    response.setHeader('content-range', `bytes */${bytes.length}`)
    return withLength(response, Buffer.alloc(0))
  }
  response.statusCode = 206
  response.setHeader('content-range', `bytes ${start}-${end}/${bytes.length}`)
  return withLength(response, bytes.subarray(start, end + 1))
}

function withLength(response: ServerResponse, bytes: Buffer): Buffer {
  if (response.statusCode !== 204 && response.statusCode !== 304) response.setHeader('content-length', bytes.length)
  return bytes
}
