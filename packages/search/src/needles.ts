import type { Definition } from '@mappa/core/definition/definition'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { type Encoded, isSearchable } from '@mappa/core/values/encodings'
import { listForms } from '@mappa/core/values/forms'
import { listDecodings } from './decode/decodings.ts'
import { findEncodedRegions } from './decode/encoded-regions.ts'
import { decodeAll, listDecodedRegions, withoutMargins } from './decode/regions.ts'
import { joinSplitLists } from './decode/split-lists.ts'
import { type Finder, makeFinder } from './finder.ts'
import { listHiddenValues } from './hidden-values.ts'
import { buildSearchIndex, type SearchIndex } from './search-index.ts'

/** A secret to look for, in all its encodings. */
export interface SearchedSecret {
  readonly name: string
  readonly setting: string
  /** The variable that had the value before; left out for the value of today. */
  readonly formerOf?: string
  readonly patterns: readonly Encoded[]
}

/** Where a secret was found. */
export interface Hit {
  readonly name: string
  readonly setting: string
  /** The variable that had the value before; left out for the value of today. */
  readonly formerOf?: string
  /** In words, with a comma before them; empty where the value stands as it is. */
  readonly encoding: string
}

/**
 * What to look for: the values of all secrets in all stages, in every layer that has one.
 *
 * @returns the needles, and a notice for each secret that can't be searched for
 */
export function collectNeedles(inspections: readonly Resolution<Definition>[]): {
  needles: SearchedSecret[]
  /** How many different values there are to look for. */
  values: number
  problems: Problem[]
} {
  const byValue = new Map<string, readonly SearchedSecret[]>()
  const problems: Problem[] = []
  /** Takes a value once; `false` for one that can't be searched for. */
  const take = (name: string, path: string, text: string, value: unknown): boolean => {
    const key = `${name}=${text}`
    const found = byValue.get(key) ?? toNeedles(name, path, text, value)
    byValue.set(key, found)
    return found.length > 0
  }
  for (const { declaration, text, value } of inspections.flatMap(({ settings }) => settings.filter(isSecret))) {
    const { name, path: setting } = declaration
    if (take(name, setting, text!, value) || problems.some((each) => each.name === name)) continue
    problems.push(guardProblem('secret-not-searchable', { name }, { name, setting }))
  }
  for (const { name, path, text } of inspections.flatMap((each) => listHiddenValues(each, ({ masked }) => masked)))
    take(name, path, text, text)
  const found = [...byValue.values()]
  return { needles: found.flat(), values: found.filter(({ length }) => length > 0).length, problems }
}

const isSecret = ({ masked, text }: ResolvedSetting) => masked && text !== undefined && text !== ''

/** Of data with more parts, no more are looked for. */
export const MAX_PARTS = 300

/**
 * A value, ready to be looked for in everything that it can become.
 *
 * @param value the typed value; what a program gets
 * @returns nothing where none of it can be told apart from other text
 */
export function toNeedles(name: string, setting: string, text: string, value: unknown = text): SearchedSecret[] {
  return listForms(text, value)
    .filter((each) => isSearchable(each.text))
    .slice(0, MAX_PARTS)
    .map(({ listPatterns }) => ({ name, setting, patterns: listPatterns() }))
}

/** The text of what is searched: one character, up to U+00FF, for each byte. */
export function bytewise(content: Uint8Array | string): string {
  // Most code is ASCII, and its own such text.
  if (typeof content === 'string' && Buffer.byteLength(content) === content.length) return content
  const bytes =
    typeof content === 'string'
      ? Buffer.from(content)
      : Buffer.from(content.buffer, content.byteOffset, content.byteLength)
  return bytes.toString('latin1')
}

/**
 * Looks for secrets in all their encodings; each secret is reported once, in the first of those that are there.
 *
 * @param text what {@link bytewise} gives
 */
export function findHits(text: string, needles: readonly SearchedSecret[]): Hit[] {
  const { find, patterns } = prepareNeedles(needles)
  const first = new Map<string, number>()
  find(text, (index) => {
    const { name } = patterns[index]!.needle
    first.set(name, Math.min(index, first.get(name) ?? index))
  })
  return [...first.values()]
    .sort((one, other) => one - other)
    .map((index) => {
      const { encoding, needle } = patterns[index]!
      const { patterns: _, ...what } = needle
      return { ...what, encoding }
    })
}

/**
 * Looks for secrets in what a page is made of: also in pieces that code puts together, and under escapes of JavaScript, JSON and
 * HTML.
 *
 * @param text what {@link bytewise} gives
 */
export function findHitsInCode(text: string, needles: readonly SearchedSecret[]): Hit[] {
  if (needles.length === 0) return []
  const prepared = prepareNeedles(needles)
  // Numbers stand on lines of their own where nobody took the blanks out.
  const hits = findHits(prepared.hasNumbers ? text.replace(/(\d),\s+(?=\d)/g, '$1,') : text, needles)
  if (hits.length === needles.length) return hits
  const add = (more: readonly Hit[]) => {
    for (const hit of more) if (hits.every(({ name }) => name !== hit.name)) hits.push(hit)
  }
  const { parts: regions, files } = findEncodedRegions(text, prepared.searchIndex)
  for (const file of files) add(findHitsInFile(Buffer.from(file, 'base64'), needles))
  const lists = joinSplitLists(text)
  if (lists !== '') add(findHits(lists, needles).map((hit) => ({ ...hit, encoding: ', in pieces or escaped' })))
  const parts = lists === '' ? regions : `${regions}\0${lists}`
  if (parts === '') return hits
  for (const { encoding, bytes } of listDecodings(Buffer.from(parts, 'latin1')))
    add(
      findHits(bytewise(bytes), needles).map((hit) => ({
        ...hit,
        encoding: hit.encoding === '' ? encoding : hit.encoding,
      })),
    )
  return hits
}

/** Looks for secrets in a file of which it is not known what it is. With a NUL in it, it is no code. */
export function findHitsInFile(bytes: Uint8Array, needles: readonly SearchedSecret[]): Hit[] {
  return findHitsInText(bytewise(bytes), needles, bytes.includes(0) ? findHits : findHitsInCode)
}

/**
 * Looks for secrets in a text: as it stands, in what it has in base64, in hexadecimal digits or as numbers, and in lines with a margin.
 *
 * @param text what {@link bytewise} gives
 * @param find looks at it as it stands
 */
export function findHitsInText(
  text: string,
  needles: readonly SearchedSecret[],
  find: typeof findHits = findHitsInCode,
): Hit[] {
  const hits = find(text, needles)
  if (needles.length === 0) return hits
  const { names, hasLines } = prepareNeedles(needles)
  const found = new Set(hits.map(({ name }) => name))
  if (found.size === names) return hits
  const add = (more: readonly Hit[], how: string) => {
    for (const hit of more.filter(({ name }) => !found.has(name))) {
      found.add(hit.name)
      hits.push({ ...hit, encoding: `${hit.encoding}${how}` })
    }
  }
  const decoded = decodeAll(text)
    .flatMap((each) => findHits(each, needles))
    .filter(({ name }) => !found.has(name))
  // Hardly ever: only now it is asked where each of them is.
  if (decoded.length > 0) {
    for (const { encoding, bytes: inner } of listDecodedRegions(text)) add(findHits(bytewise(inner), needles), encoding)
    add(decoded, '')
  }
  if (hasLines && text.includes('\n')) add(findHits(withoutMargins(text), needles), ', as lines with a margin')
  return hits
}

/** What is the same for all files of a search. */
interface Prepared {
  readonly patterns: readonly (Encoded & { readonly needle: SearchedSecret })[]
  readonly find: Finder
  readonly searchIndex: SearchIndex
  /** True where bytes are looked for as numbers. */
  readonly hasNumbers: boolean
  /** True where texts of several lines are looked for. */
  readonly hasLines: boolean
  /** How many different names there are. */
  readonly names: number
}

const known = new WeakMap<readonly SearchedSecret[], Prepared>()

function prepareNeedles(needles: readonly SearchedSecret[]): Prepared {
  const before = known.get(needles)
  if (before !== undefined) return before
  const patterns = needles.flatMap((needle) => needle.patterns.map((pattern) => ({ ...pattern, needle })))
  const texts = patterns.map(({ text }) => text)
  const fresh = {
    patterns,
    find: makeFinder(texts),
    searchIndex: buildSearchIndex(texts),
    hasNumbers: texts.some((each) => /^\d+(?:,\d+){7}/.test(each)),
    hasLines: texts.some((each) => each.includes('\n')),
    names: new Set(needles.map(({ name }) => name)).size,
  }
  known.set(needles, fresh)
  return fresh
}
