import { makeLocator } from '@mappa/core/text/locator'
import type { SourceLiteral } from '../source.ts'

/** A private key in PEM (RFC 7468), over several lines. */
const KEY = /-----BEGIN ((?:[A-Z0-9]+ )*PRIVATE KEY)-----[ \t]*\r?\n(?:[^-]|-(?!----))*-----END \1-----/g
/** What names a text of several lines, before its first line: a quote, three of them, or the word that ends it. */
const NAMED =
  /([A-Za-z_][\w.-]*)["']?\s*(?:[:?+]?[=:]|=>)\s*(?:\$\(\s*cat\s*)?(?:<<[-~]?\s*["']?\w+["']?\s*|"""\s*|'''\s*|["'`])?$/

/**
 * The private keys of a file that is read line by line: each stands on several lines, in quotes, or in a text that a word ends, so that no
 * line shows a value.
 */
export function* findMultilineKeys(text: string, file: string): Generator<SourceLiteral> {
  if (!text.includes('PRIVATE KEY-----')) return
  const placeOf = makeLocator(text)
  for (const { 0: raw, index: start } of text.matchAll(KEY)) {
    const margin = /^[ \t]*/.exec(text.slice(text.lastIndexOf('\n', start) + 1))![0]
    const [, name] = NAMED.exec(text.slice(Math.max(0, start - 200), start)) ?? []
    yield {
      file,
      ...placeOf(start),
      // What moves the lines in is no part of the key.
      value: margin === '' ? raw : raw.replaceAll(`\n${margin}`, '\n'),
      form: 'text',
      names: name === undefined ? [] : [name],
      callee: null,
      variable: null,
      start,
      end: start + raw.length,
      isOpen: true,
    }
  }
}
