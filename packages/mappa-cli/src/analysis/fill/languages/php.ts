import { ERROR, lezerParser } from '@mappa/source/tree/lezer'
import type { TreeNode } from '@mappa/source/tree/node'
import type { Language, NotValid, Style, Token } from './language.ts'

const parse = lezerParser((require) => require('@lezer/php'))

/** Texts that are one token with all that is in them. */
const TEXTS: ReadonlySet<string> = new Set(['String', 'Interpolation', 'HeredocString', 'ShellExpression'])

/** PHP, with the text around it. */
export const php: Language = {
  name: 'PHP',
  files: /\.(?:php\d?|phtml|inc)$/i,
  filter: 'php',
  ownsFilter: true,
  tokens(text) {
    const found = listTokens(parse(text), text)
    return Array.isArray(found) ? found : (found as NotValid)
  },
  refuse(written, { style }) {
    if (style === 'double') return /[\\$"`{}\n\r]/.test(written) ? 'within quotes it would not be taken as it is' : null
    if (style === 'single') return /[\\']/.test(written) ? 'within quotes it would not be taken as it is' : null
    if (style === 'structure') return /^[\w .,:/@+-]*$/.test(written) ? null : 'only plain words can be in a comment'
    // Whatever the filter wrote is in quotes of its own; what is bare would be the name of a constant.
    return style === 'plain' && !/^(?:'.*'|-?\d+(?:\.\d+)?|true|false|null)$/s.test(written)
      ? 'without quotes it would be code'
      : null
  },
}

function listTokens(node: TreeNode, text: string): readonly Token[] | NotValid {
  const tokens: Token[] = []
  const open = [node]
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    if (next.type === ERROR) return { reason: 'something is missing or too much', offset: next.start }
    if (next.children.length === 0 || TEXTS.has(next.type))
      tokens.push(toToken(next.type, text.slice(next.start, next.end)))
    else open.push(...next.children.toReversed())
  }
  return tokens
}

function toToken(type: string, raw: string): Token {
  if (type === 'String' && raw.startsWith("'"))
    return { style: 'single', text: raw.slice(1, -1).replace(/\\(['\\])/g, '$1') }
  return { style: chooseStyle(type), text: raw }
}

function chooseStyle(type: string): Style {
  if (TEXTS.has(type)) return 'double'
  if (/Comment$/.test(type)) return 'structure'
  return type === 'Text' ? 'literal' : 'plain'
}
