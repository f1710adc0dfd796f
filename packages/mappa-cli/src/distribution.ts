/**
 * The directory of the built command, as a URL with a slash at its end: the page and what writes reports lie beside it.
 *
 * @example
 * ```ts
 * new URL('web/index.html', distribution())
 * ```
 */
export function distribution(): URL {
  // A chunk of the command lies one directory deeper than its entry.
  return new URL(import.meta.url.includes('/chunks/') ? '../' : './', import.meta.url)
}
