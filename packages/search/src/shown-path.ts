import { bytewise, findHits, type Hit, type SearchedSecret } from './needles.ts'

/** A path that may be shown, and the secrets that are in it. */
export interface ShownPath {
  readonly path: string
  readonly hits: readonly Hit[]
}

/**
 * A path without the names in it that hold a secret: what is found is told, and never shown.
 *
 * @param path with `/` or `\` between directories
 */
export function showPath(path: string, needles: readonly SearchedSecret[]): ShownPath {
  const hits = findHits(bytewise(path), needles)
  if (hits.length === 0) return { path, hits }
  const names = hits.map(({ name }) => name).join(', ')
  const parts = path
    .split(/([\\/])/)
    .map((part) => (findHits(bytewise(part), needles).length === 0 ? part : `(${names})`))
  const shown = parts.join('')
  // A value with a slash in it goes over several names.
  return {
    path:
      findHits(bytewise(shown), needles).length === 0 && parts.some((part) => part === `(${names})`)
        ? shown
        : `(${names})`,
    hits,
  }
}
