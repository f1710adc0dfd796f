import { printParseErrorCode, visit } from 'jsonc-parser'
import type { Language, NotValid, Token } from './language.ts'

/** JSON (RFC 8259), without comments. */
export const json: Language = {
  name: 'JSON',
  files: /\.json$/i,
  filter: 'json',
  tokens(text) {
    const tokens: Token[] = []
    let fault: NotValid | null = null
    const readStructure = (sign: string) => () => void tokens.push({ style: 'structure', text: sign })
    const source = text.replace(/^\ufeff/, ' ')
    visit(
      source,
      {
        onObjectBegin: readStructure('{'),
        onObjectEnd: readStructure('}'),
        onArrayBegin: readStructure('['),
        onArrayEnd: readStructure(']'),
        onObjectProperty: (name) => void tokens.push({ style: 'double', text: name }),
        onLiteralValue(value, offset, length) {
          const isString = typeof value === 'string'
          tokens.push({
            style: isString ? 'double' : 'plain',
            text: isString ? value : source.slice(offset, offset + length),
          })
        },
        onError(code, offset) {
          fault ??= { reason: listWords(printParseErrorCode(code)), offset }
        },
      },
      { disallowComments: true },
    )
    return fault ?? tokens
  },
}

/** `PropertyNameExpected` as words. */
function listWords(code: string): string {
  return code.replace(/(?<=[a-z])[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).toLowerCase()
}
