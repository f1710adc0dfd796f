import { visit } from 'jsonc-parser'
import type { Language } from './language.ts'
import type { SourceLiteral } from './source.ts'

/** Shorter texts are words; the shortest number that is a setting is a port. */
const SHORTEST = { text: 4, number: 2 } as const

/** JSON, with comments or without (RFC 8259). */
export const json: Language = {
  name: 'JSON',
  files: /\.(?:json5?|jsonc|webmanifest|tfstate)$/i,
  isPrefiltered: true,
  mayBeMinified: true,
  read(text, file) {
    const literals: SourceLiteral[] = []
    visit(text, {
      onLiteralValue(value, offset, length, line, column, pathOf) {
        const form = typeof value === 'number' ? 'number' : 'text'
        const shown = String(value)
        if (!(typeof value === 'string' || typeof value === 'number') || shown.length < SHORTEST[form]) return
        literals.push({
          file,
          line: line + 1,
          column: column + 1,
          value: shown,
          form,
          names: pathOf().filter((each) => typeof each === 'string'),
          callee: null,
          variable: null,
          start: offset,
          end: offset + length,
        })
      },
    })
    return { literals, reads: [] }
  },
}
