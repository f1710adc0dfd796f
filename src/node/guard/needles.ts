import type { Definition } from '../../core/definition/definition.ts'
import { encodingsOf, isSearchable } from '../../core/guard/encodings.ts'
import { partsToRead, readingsOf, type Sought, soughtOf } from '../../core/guard/readings.ts'
import { guardProblem } from '../../core/problems/of-commands.ts'
import type { Problem } from '../../core/problems/problem.ts'
import type { Inspection } from '../load.ts'

/** A secret to look for, in all its encodings. */
export interface Needle {
  readonly name: string
  readonly setting: string
  readonly patterns: readonly Pattern[]
}

/** One way in which a secret can be written: as bytes, and as a text with one character, up to U+00FF, for each of them. */
export interface Pattern {
  readonly encoding: string
  readonly text: string
  readonly bytes: Buffer
}

/** Where a secret was found. */
export interface Hit {
  readonly name: string
  readonly setting: string
  /** In words, with a comma before them; empty where the value stands as it is. */
  readonly encoding: string
}

/**
 * What to look for: the values of all secrets in all stages.
 *
 * @returns the needles, and a notice for each secret that can't be searched for
 */
export function needlesOf(inspections: readonly Inspection<Definition>[]): { needles: Needle[]; problems: Problem[] } {
  const needles: Needle[] = []
  const problems: Problem[] = []
  const seen = new Set<string>()
  for (const { settings } of inspections) {
    for (const { declaration, text, masked } of settings) {
      if (!masked || text === undefined || text === '' || seen.has(`${declaration.name}=${text}`)) continue
      seen.add(`${declaration.name}=${text}`)
      const { name, path: setting } = declaration
      if (!isSearchable(text)) {
        if (!problems.some((each) => each.name === name))
          problems.push(guardProblem('secret-not-searchable', { name }, { name, setting }))
        continue
      }
      needles.push(needleOf(name, setting, text))
    }
  }
  return { needles, problems }
}

/** A value, ready to be looked for. It must be one that {@link isSearchable}. */
export function needleOf(name: string, setting: string, text: string): Needle {
  const patterns = [text, ...tellingLines(text)].flatMap((each) =>
    encodingsOf(each).map((encoded) => ({ ...encoded, bytes: Buffer.from(encoded.text, 'latin1') })),
  )
  return { name, setting, patterns }
}

/** The lines of a long text that can be told apart by themselves, as those of a key: its line ends are often lost. */
function tellingLines(text: string): string[] {
  if (!text.includes('\n')) return []
  return text.split(/\r?\n/).filter((line) => line.length >= 32 && !line.startsWith('-----') && isSearchable(line))
}

/** Looks for secrets in bytes; each secret is told of once. */
export function hitsIn(bytes: Buffer, needles: readonly Needle[]): Hit[] {
  return hitsBy((pattern) => bytes.includes(pattern.bytes), needles)
}

/** Looks for secrets as they stand alone, which is quick. */
export function plainHits(content: Buffer | string, needles: readonly Needle[]): Hit[] {
  const bytes = Buffer.from(content as string)
  return hitsBy((pattern) => pattern.encoding === '' && bytes.includes(pattern.bytes), needles)
}

/** The same in a text that has one character, up to U+00FF, for each byte. */
function hitsInText(text: string, needles: readonly Needle[]): Hit[] {
  return hitsBy((pattern) => text.includes(pattern.text), needles)
}

function hitsBy(isThere: (pattern: Pattern) => boolean, needles: readonly Needle[]): Hit[] {
  const hits: Hit[] = []
  for (const { name, setting, patterns } of needles) {
    const found = patterns.find(isThere)
    if (found !== undefined && !hits.some((hit) => hit.name === name))
      hits.push({ name, setting, encoding: found.encoding })
  }
  return hits
}

/**
 * Looks for secrets in what a page is made of: also in pieces that code puts together, and under escapes of JavaScript, JSON and
 * HTML.
 *
 * @param content bytes, or a text
 */
export function hitsInCode(content: Buffer | string, needles: readonly Needle[]): Hit[] {
  if (needles.length === 0) return []
  // Most code is ASCII, and its text is that of its bytes.
  const isPlain = typeof content === 'string' && Buffer.byteLength(content) === content.length
  const text = isPlain ? content : Buffer.from(content as string).toString('latin1')
  const hits = hitsInText(text, needles)
  // Bytes with a NUL are no text; code may have one and is read on.
  if (hits.length === needles.length || (typeof content !== 'string' && text.includes('\0'))) return hits
  const add = (more: readonly Hit[]) => {
    for (const hit of more) if (hits.every(({ name }) => name !== hit.name)) hits.push(hit)
  }
  if (text.includes(';base64,'))
    for (const [, data] of text.matchAll(IN_ADDRESS)) add(hitsInCode(Buffer.from(data!, 'base64'), needles))
  const parts = Buffer.from(partsToRead(text, soughtFor(needles)), 'latin1')
  if (parts.length === 0) return hits
  for (const { way, bytes: read } of readingsOf(parts)) {
    const buffer = Buffer.from(read.buffer, read.byteOffset, read.length)
    add(hitsIn(buffer, needles).map((hit) => ({ ...hit, encoding: hit.encoding === '' ? way : hit.encoding })))
  }
  return hits
}

/** Needles are the same for all files of a search. */
const sought = new WeakMap<readonly Needle[], Sought>()

function soughtFor(needles: readonly Needle[]): Sought {
  let known = sought.get(needles)
  if (known === undefined) {
    known = soughtOf(needles.flatMap(({ patterns }) => patterns.map(({ text }) => text)))
    sought.set(needles, known)
  }
  return known
}

/** A file within an address (RFC 2397), such as a small picture. */
const IN_ADDRESS = /;base64,([\w+/-]{16,})/g
