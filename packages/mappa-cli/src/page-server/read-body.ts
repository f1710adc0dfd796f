import type { IncomingMessage } from 'node:http'

/** The largest body that is read, in bytes: a value may be as large as an env file. */
const LARGEST_BODY = 2 * 1024 * 1024

/** Something that a request got wrong. */
export class BadRequest extends Error {}

/**
 * Reads the JSON object of a request.
 *
 * @throws {BadRequest} for anything else
 */
export async function readBody(request: IncomingMessage): Promise<Readonly<Record<string, unknown>>> {
  if (!/^application\/json(;|$)/.test(request.headers['content-type'] ?? '')) throw new BadRequest('JSON is expected.')
  const pieces: Buffer[] = []
  let size = 0
  for await (const piece of request as AsyncIterable<Buffer>) {
    size += piece.length
    if (size > LARGEST_BODY) throw new BadRequest('The request is too large.')
    pieces.push(piece)
  }
  try {
    const body: unknown = JSON.parse(Buffer.concat(pieces).toString('utf8'))
    if (typeof body === 'object' && body !== null && !Array.isArray(body)) return body as Record<string, unknown>
  } catch {}
  throw new BadRequest('The request is not a JSON object.')
}

/**
 * A text of a request.
 *
 * @throws {BadRequest} where it is none
 */
export function getText(body: Readonly<Record<string, unknown>>, key: string): string {
  const value = body[key]
  if (typeof value !== 'string') throw new BadRequest(`${key} must be a text.`)
  return value
}
