import { makeLocator } from '@mappa/core/text/locator'
import type { Language } from './language.ts'
import type { SourceLiteral } from './source.ts'

/** `<key>Name</key> <string>value</string>`, as property lists have it. */
const PAIR = /<key>([^<>]{1,100})<\/key>\s*<string>([^<>]+)<\/string>/g
/** `<name>value</name>`, or a text in an element that an attribute names. */
const ELEMENT = /<([A-Za-z_][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*)\s*>([^<>]+)<\/\1\s*>/g
/** An element with attributes, and one attribute. */
const TAG = /<[A-Za-z_][\w:.-]*((?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))+)\s*\/?>/g
const ATTRIBUTE = /([\w:.-]+)\s*=\s*("[^"]*"|'[^']*')/g
/** Attributes that say what another one is. */
const NAMING = /^(?:[\w-]+:)?(?:key|name|id|property)$/i
/** Shorter values, in characters, are no settings. */
const SHORTEST = 4

/** XML, property lists and what else is written so: texts of elements, and attributes. */
export const xml: Language = {
  name: 'XML',
  files: /\.(?:xml|plist|config|props|csproj)$/i,
  isPrefiltered: false,
  mayBeMinified: false,
  read(text, file) {
    // Comments hold nothing that counts; everything else stays where it is. Behind the last end of one, none is closed.
    const last = text.lastIndexOf('-->') + 3
    const code = text.slice(0, last).replace(/<!--[\s\S]*?-->/g, blankComments) + text.slice(last)
    const placeOf = makeLocator(code)
    const taken = new Set<number>()
    const literals: SourceLiteral[] = []
    const add = (written: string, start: number, name: string) => {
      const value = decodeEntities(written.trim())
      const from = start + written.length - written.trimStart().length
      if (value.length < SHORTEST || taken.has(from)) return
      taken.add(from)
      literals.push({
        file,
        ...placeOf(from),
        value,
        form: 'text',
        names: [name],
        callee: null,
        variable: null,
        start: from,
        end: from + written.trim().length,
      })
    }
    for (const { 0: whole, 1: name, 2: value, index } of code.matchAll(PAIR))
      add(value!, index + whole.lastIndexOf(value!), name!)
    for (const { 0: whole, 1: element, 2: attributes, 3: value, index } of code.matchAll(ELEMENT))
      add(value!, index + whole.lastIndexOf(value!), readNameAttribute(attributes!) ?? element!)
    for (const { 1: attributes, 0: whole, index } of code.matchAll(TAG)) {
      const from = index + whole.indexOf(attributes!)
      const named = readNameAttribute(attributes!)
      for (const { 0: pair, 1: name, 2: value, index: at } of attributes!.matchAll(ATTRIBUTE)) {
        const isValue = /^(?:[\w-]+:)?value$/i.test(name!)
        if (!NAMING.test(name!))
          add(value!.slice(1, -1), from + at + pair.length - value!.length + 1, isValue ? (named ?? name!) : name!)
      }
    }
    return { literals, reads: [] }
  },
}

function blankComments(comment: string): string {
  return comment.replace(/[^\r\n]/g, ' ')
}

/** What an element is called by its attributes. */
function readNameAttribute(attributes: string): string | null {
  for (const [, name, value] of attributes.matchAll(ATTRIBUTE)) if (NAMING.test(name!)) return value!.slice(1, -1)
  return null
}

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

function decodeEntities(text: string): string {
  return text.replace(/&(\w+);/g, (whole, name: string) => ENTITIES[name] ?? whole)
}
