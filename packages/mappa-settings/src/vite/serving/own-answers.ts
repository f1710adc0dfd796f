import type { ServerResponse } from 'node:http'

/** Answers of ours, which show no secret, and of layer files the line that is wrong. */
const own = new WeakSet<ServerResponse>()

/** Lets an answer go out as it is. */
export function markOwn(response: ServerResponse): void {
  own.add(response)
}

/** True for an answer that goes out as it is. */
export function isOwn(response: ServerResponse): boolean {
  return own.has(response)
}
