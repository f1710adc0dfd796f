const KEY = 'mappa.key'

/** A key that the server takes, or why there is none. */
export type Session = { readonly key: string } | { readonly why: string }

/**
 * Exchanges the token behind `#` of the link for a key, which this window keeps. The token goes out of the address at once, so that it
 * is in no history.
 */
export async function startSession(): Promise<Session> {
  const token = location.hash.slice(1)
  if (token === '') {
    const key = sessionStorage.getItem(KEY)
    return key === null ? { why: 'This address alone opens nothing: a link of the command is needed.' } : { key }
  }
  history.replaceState(null, '', location.pathname)
  const response = await fetch('/api/session', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ token }),
  }).catch(() => null)
  if (response === null) return { why: 'The command has ended.' }
  if (!response.ok) return { why: 'The link was used already, or is too old.' }
  const { key } = (await response.json()) as { key: string }
  sessionStorage.setItem(KEY, key)
  return { key }
}
