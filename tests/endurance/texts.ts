import assert from 'node:assert/strict'
import { EnvDocument } from 'mappa-settings/envfile'
import type { LongRun } from './long-run.ts'
import { makeRandom } from './long-run.ts'

const PIECES = [
  'A=1',
  'B=',
  'export ',
  'C = ',
  'D: x',
  '=',
  '"',
  "'",
  '`',
  '\\',
  '$',
  '${A}',
  '${A:-b}',
  '$B',
  '#',
  ' # c',
  ' ',
  '\t',
  '\n',
  '\n',
  '\r\n',
  '\r',
  '\0',
  '\ufeff',
  '\ufffd',
  'é',
  '🌙',
  '\u2028',
  '-----BEGIN K-----\n',
  '-----END K-----\n',
  '{',
  '}',
  '(',
  ';',
  'set 2026-11-23',
  '%41',
  '\ud800',
]

/** Reading loses nothing: whatever a file holds, printed again it is the same text, and every entry is where it says. */
export const texts: LongRun = {
  name: 'texts',
  promise: 'a text that is read and printed is the same',
  short: 12_000,
  long: 1_000_000,
  run(count, seed) {
    const random = makeRandom(seed)
    for (let at = 0; at < count; at++) {
      const text = random.text(PIECES, 14)
      const document = EnvDocument.from(text)
      assert.equal(String(document), text)
      const lines = text.replace(/^\ufeff/, '').split('\n')
      for (const { name, line, column } of document.entries)
        assert.ok(lines[line - 1]?.startsWith(name, column - 1), JSON.stringify({ text, name, line, column }))
    }
  },
}
