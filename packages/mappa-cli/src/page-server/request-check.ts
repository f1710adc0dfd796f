import type { IncomingMessage } from 'node:http'

/**
 * Refuses what does not come from the page itself: a request under another name, as after a rebinding of a DNS name, or one that another
 * site made the browser send.
 *
 * @param request what came in
 * @param host the one name of this server, with its port
 * @returns why it is refused; `null` if it is not
 */
export function explainForeignRequest({ headers, method }: IncomingMessage, host: string): string | null {
  if (headers.host !== host) return 'This server answers to its own address only.'
  const origin = headers.origin
  if (origin !== undefined && origin !== `http://${host}`) return 'The request comes from another origin.'
  // A browser names the origin of everything but plain reading.
  if (origin === undefined && method !== 'GET' && method !== 'HEAD') return 'The request names no origin.'
  const site = headers['sec-fetch-site']
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return 'The request comes from another site.'
  return null
}

/** Headers of every answer: nothing is loaded from elsewhere, kept, framed or told to others. */
export function writeSafeHeaders(nonce?: string): Readonly<Record<string, string>> {
  const styles = nonce === undefined ? "'self'" : `'self' 'nonce-${nonce}'`
  return {
    'content-security-policy': [
      "default-src 'none'",
      "script-src 'self'",
      `style-src ${styles}`,
      "connect-src 'self'",
      "img-src 'self' data:",
      "base-uri 'none'",
      "form-action 'none'",
      "frame-ancestors 'none'",
    ].join('; '),
    'cache-control': 'no-store',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'referrer-policy': 'no-referrer',
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
  }
}
