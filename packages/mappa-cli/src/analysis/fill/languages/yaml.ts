import { type Document, parseAllDocuments, Scalar, visit } from 'yaml'
import type { Language, Style, Token } from './language.ts'

const STYLES: Readonly<Record<string, Style>> = {
  [Scalar.QUOTE_DOUBLE]: 'double',
  [Scalar.QUOTE_SINGLE]: 'single',
  [Scalar.BLOCK_LITERAL]: 'literal',
  [Scalar.BLOCK_FOLDED]: 'folded',
}

/** YAML 1.2, one document or several. */
export const yaml: Language = {
  name: 'YAML',
  files: /\.ya?ml$/i,
  filter: 'yaml',
  tokens(text) {
    const documents = parseAllDocuments(text, { logLevel: 'silent', uniqueKeys: false })
    const list: readonly Document.Parsed[] = Array.isArray(documents) ? documents : []
    const [error] = list.flatMap((each) => each.errors)
    if (error !== undefined) return { reason: error.message.split(/ at line |\n/)[0]!, offset: error.pos[0] }
    return list.flatMap(tokensOf)
  },
}

function tokensOf(document: Document.Parsed): readonly Token[] {
  const tokens: Token[] = [{ style: 'structure', text: '---' }]
  visit(document, {
    Map: (_key, { items }) => void tokens.push({ style: 'structure', text: `map of ${items.length}` }),
    Seq: (_key, { items }) => void tokens.push({ style: 'structure', text: `list of ${items.length}` }),
    Alias: (_key, { source }) => void tokens.push({ style: 'structure', text: `alias ${source}` }),
    Scalar(_key, { type, source, value, anchor, tag }) {
      const style = STYLES[type ?? ''] ?? 'plain'
      if (anchor !== undefined || tag !== undefined)
        tokens.push({ style: 'structure', text: `anchor ${anchor ?? ''} tag ${tag ?? ''}` })
      tokens.push({ style, text: style === 'plain' ? (source ?? '') : String(value) })
    },
  })
  return tokens
}
