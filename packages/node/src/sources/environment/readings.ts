import type { Reference, Template } from '@mappa/core/template/template'

/** A value as it stands in an env file. */
export type Written = string | Template

/** What a variable may have had when references to it were filled in. */
export type Lookup = (name: string) => readonly Written[]

/** More readings of one value are not looked at: nobody writes so many references. */
const MAX_READINGS = 100
/** References to references are followed so far. */
const MAX_DEPTH = 8

/**
 * True where a loader can have made a value of what is written. Loaders differ in how they read quotes, backslashes and blanks, so these don't
 * count; and some fill in references, while others leave them as they are.
 *
 * @param lookup what references can stand for
 */
export function canGive(written: Written, value: string, lookup: Lookup): boolean {
  const bare = strip(value)
  return new Readings(lookup).list(written, MAX_DEPTH).some((each) => strip(each) === bare)
}

const strip = (text: string) => text.replace(/[\\'"`\s]/g, '')

/** Everything that may be meant by what is written; each part is worked out once, however often it is referred to. */
class Readings {
  readonly #lookup: Lookup
  readonly #known = Array.from({ length: MAX_DEPTH + 1 }, () => new Map<Template, readonly string[]>())

  constructor(lookup: Lookup) {
    this.#lookup = lookup
  }

  list(written: Written, depth: number): readonly string[] {
    if (typeof written === 'string') return [written]
    const known = this.#known[depth]!.get(written)
    if (known !== undefined) return known
    let found: readonly string[] = ['']
    for (const piece of written) {
      const next = typeof piece === 'string' ? [piece] : this.#listMeanings(piece, depth)
      found = [...new Set(found.flatMap((before) => next.map((each) => before + each)))].slice(0, MAX_READINGS)
    }
    this.#known[depth]!.set(written, found)
    return found
  }

  #listMeanings({ name, operator, word }: Reference, depth: number): readonly string[] {
    if (depth === 0) return []
    const others = this.list(word, depth - 1)
    const own = this.#lookup(name).flatMap((each) => this.list(each, depth - 1))
    // Some loaders fill in nothing, and none what is not there.
    const asWritten = [`$${name}`, ...others.map((each) => `\${${name}${operator}${each}}`)]
    return [...own, ...(operator === '' ? [''] : others), ...asWritten].slice(0, MAX_READINGS)
  }
}
