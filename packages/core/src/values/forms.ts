import { holdsCredential } from '../credentials/credentials.ts'
import { classifyMeaning } from '../credentials/words.ts'
import { toWellFormed } from '../text/well-formed.ts'
import { binary } from './bytes.ts'
import { type Encoded, listByteEncodings, listEncodings } from './encodings.ts'

/** One text that a value can be searched as. */
export interface Form {
  /** What of the value it is, as text, with a comma before them; empty for the value as its layer has it. */
  readonly what: string
  /** For bytes, one character for each. */
  readonly text: string
  /** Every text in which it can hide, of characters up to U+00FF, one for each byte. */
  readonly listPatterns: () => readonly Encoded[]
}

/** Deeper data is not walked; a custom value may hold itself. */
const MAX_DEPTH = 12
/** Accessors of classes are asked so deep. */
const MAX_ACCESSORS = 2

/**
 * Everything that a value can become in a program, as texts: what its layer has, and the typed value with all that is in it. What a
 * text looks like decides, and not the kind of its setting: an address may stand in JSON, and a key in a list.
 *
 * @param text the text of the layer
 * @param value the typed value; a secret's own
 * @returns each text once, the layer's first. Those that stand anywhere by chance are among them.
 */
export function listForms(text: string, value: unknown): readonly Form[] {
  const found = new Map<string, Form>()
  const add = (each: string, what: string, list = listEncodings) => {
    const listPatterns = () => list(each).map(({ encoding, text }) => ({ encoding: `${what}${encoding}`, text }))
    if (each !== '' && !found.has(each)) found.set(each, { what, text: each, listPatterns })
  }
  add(text, '')
  for (const shape of findShapes(text)) add(...shape)
  if (value !== text) walk(value, 0, add)
  walkJson(text, add)
  return [...found.values()]
}

type Add = (text: string, what: string, list?: typeof listEncodings) => void

/** Goes through a value with all that is in it. */
function walk(value: unknown, depth: number, add: Add): void {
  if (typeof value === 'string') {
    const what = depth === 0 ? '' : ', as a part of it'
    add(value, what)
    for (const shape of findShapes(value)) add(...shape)
  } else if (typeof value === 'number' || typeof value === 'bigint') addNumber(value, add)
  else if (value instanceof Date) addDate(value, add)
  else if (value instanceof URL) walk(value.href, depth, add)
  else if (value instanceof Uint8Array) addBytes(value, add)
  else if (typeof value === 'object' && value !== null && depth < MAX_DEPTH) walkMembers(value, depth + 1, add)
}

function walkMembers(value: object, depth: number, add: Add): void {
  const items = listItems(value, depth)
  for (const each of items) walk(each, depth, add)
  for (const name of listNames(value)) if (isTelling(name)) walk(name, depth, add)
  addData(value, items, add)
}

/** What is in a value, also what only its accessors give. */
function listItems(value: object, depth: number): readonly unknown[] {
  if (value instanceof Map || value instanceof Set) return [...value.values()]
  // An accessor may make another object each time, whose accessors make others.
  return [...Object.values(value), ...(depth > MAX_ACCESSORS ? [] : listInherited(value))]
}

/** What the accessors of the class of a value give. */
function listInherited(value: object): readonly unknown[] {
  const found: unknown[] = []
  for (let from = Object.getPrototypeOf(value); isOwnClass(from); from = Object.getPrototypeOf(from))
    for (const { get } of Object.values(Object.getOwnPropertyDescriptors(from))) {
      if (get === undefined) continue
      try {
        found.push(get.call(value))
      } catch {
        // It gives nothing here, and so to no program.
      }
    }
  return found
}

const isOwnClass = (from: object | null): from is object =>
  from !== null && ![Object.prototype, Array.prototype, Uint8Array.prototype].includes(from)

function listNames(value: object): readonly string[] {
  if (value instanceof Map) return [...value.keys()].filter((each) => typeof each === 'string')
  return Array.isArray(value) || value instanceof Set ? [] : Object.keys(value)
}

/** True for a name that is a value itself: those of a format are words, and stand in many places. */
const isTelling = (name: string) => holdsCredential(name) || (name.match(/\d/g)?.length ?? 0) >= 4

/** Round numbers and powers of two are limits and times, and stand in many places. */
function addNumber(number: number | bigint, add: Add): void {
  const significant = String(number).replace(/0+$/, '').length
  const [power, below] = [Math.log2(Number(number)), Math.log2(Number(number) + 1)]
  if (significant < SHORTEST_NUMBER || Number.isInteger(power) || Number.isInteger(below)) return
  for (const each of spellNumber(number)) add(each, ', as a number in it')
}

/** A text that is JSON has parts, whatever the kind of its setting says. */
function walkJson(text: string, add: Add): void {
  if (!/^\s*[[{]/.test(text)) return
  try {
    walk(JSON.parse(text), 0, add)
  } catch {
    // It only looks like it.
  }
}

/** A number with fewer digits stands anywhere by chance. */
const SHORTEST_NUMBER = 8

function addDate(date: Date, add: Add): void {
  if (Number.isNaN(date.getTime())) return
  for (const each of [date.toISOString(), date.toUTCString(), date.toString(), ...spellNumber(date.getTime())])
    add(each, ', as another text of that moment')
}

/** A number as programs write it, and as minifiers do. */
function spellNumber(value: number | bigint): readonly string[] {
  const plain = String(value)
  return [plain, plain.replace(/0{3,}$/, (zeros) => `e${zeros.length}`)]
}

/** Data as programs write it, and its texts one behind another. */
function addData(value: object, items: readonly unknown[], add: Add): void {
  try {
    for (const indent of [undefined, 2]) add(JSON.stringify(value, null, indent) ?? '', ', as JSON')
  } catch {
    // It holds itself, or what JSON can't hold; its members were checked.
  }
  const texts = items.filter((each) => typeof each === 'string')
  if (texts.length < 2) return
  for (const between of ['', ',', ', ', ' ', '\n']) add(texts.join(between), ', as its items in a row')
}

function addBytes(bytes: Uint8Array, add: Add): void {
  const text = new TextDecoder('utf-8', { fatal: false }).decode(bytes)
  if (text.includes('\ufffd')) add(binary([...bytes]), '', () => listByteEncodings([...bytes]))
  else add(text, ', as text')
  for (const between of [',', ', ']) add(bytes.join(between), ', as numbers')
}

/** A text, what of the value it is, and how it can be encoded. */
type Shape = readonly [text: string, what: string, list?: typeof listEncodings | undefined]

/** What a text can become without a change of what it says. */
function* findShapes(text: string): Generator<Shape> {
  yield [text.trim(), ', without blanks around it']
  if (/[\r\n]|\\n/.test(text)) yield* splitLines(text)
  if (/\s/.test(text)) yield [encodeURIComponent(toWellFormed(text)).replaceAll('%20', '+'), ', as part of an address']
  if (/^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text)) {
    const plain = text.replaceAll('-', '')
    for (const each of [plain, text, plain.toUpperCase(), plain.toLowerCase()]) yield [each, ', without hyphens']
  }
  if (/^[0-9a-f-]{8,}$/i.test(text)) {
    yield [text.toLowerCase(), ', in small letters']
    yield [text.toUpperCase(), ', in capital letters']
  }
  if (/^[a-z][\w+.-]*:\/\//i.test(text)) yield* listAddressParts(text)
  else yield* listConnectionParts(text)
}

/** A pair of a text that says how to connect: `Password=...;`, `password=... host=...`. */
const PAIR = /(?:^|[;\s])([A-Za-z][\w .-]{1,30}?)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^;\s]+))/g

/** What opens something in a text that says how to connect, and is no address. */
function* listConnectionParts(text: string): Generator<Shape> {
  for (const [, name, quoted, single, bare] of text.matchAll(PAIR))
    if (/secret/.test(classifyMeaning([name!]) ?? '')) yield [quoted ?? single ?? bare!, ', as its password']
  const [, password] = /^[^\s:@/]+:([^\s@]+)@\w*\(/.exec(text) ?? []
  if (password !== undefined) yield [password, ', as its password']
}

/** A text of several lines, whatever was done to its line ends; and what a key in PEM text holds (RFC 7468). */
function* splitLines(text: string): Generator<Shape> {
  const lines = text
    .replaceAll('\\n', '\n')
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '')
  for (const between of ['\n', '\r\n', '', ' ', '\\n', ',']) yield [lines.join(between), ', as its lines']
  for (const line of lines) if (line.length >= 32 && !line.startsWith('-----')) yield [line, ', as a line of it']
  const body = lines.filter((line) => !line.startsWith('-----')).join('')
  if (!text.includes('-----BEGIN') || !/^[A-Za-z0-9+/]{16,}={0,2}$/.test(body)) return
  yield [body, ', as its content']
  const bytes = Uint8Array.from(decode(body), (each) => each.charCodeAt(0))
  const found: Shape[] = []
  addBytes(bytes, (each, _what, list) => void found.push([each, ', as its bytes', list]))
  yield* found
}

function decode(digits: string): string {
  try {
    return atob(digits)
  } catch {
    return ''
  }
}

/** An address as its parser has it (WHATWG URL), and what opens something in it. */
function* listAddressParts(text: string): Generator<Shape> {
  const url = URL.canParse(text) ? new URL(text) : null
  if (url === null) return
  yield [url.href, '']
  for (const each of new Set([url.password, decodePercent(url.password)])) yield [each, ', as its password']
  const others = [
    url.username,
    ...url.pathname.split('/'),
    ...[...url.searchParams].map(([, value]) => value),
    url.hash.slice(1),
  ]
  for (const each of others.map(decodePercent)) if (holdsCredential(each)) yield [each, ', as a key in it']
  if (url.password === '') return
  // Another path on the same server, as programs build it.
  const [, authority = ''] = /^[a-z][\w+.-]*:\/\/([^/?#]+)/i.exec(url.href) ?? []
  yield [authority, ', as its server with the password']
}

function decodePercent(text: string): string {
  try {
    return decodeURIComponent(text)
  } catch {
    return text
  }
}
