import { type Document, parseAllDocuments, Scalar, visit } from 'yaml'
import type { Language, NotValid, Style, Token } from './language.ts'

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
  ownsFilter: true,
  tokens(text) {
    const documents = parseAllDocuments(text, { logLevel: 'silent', uniqueKeys: false })
    const list: readonly Document.Parsed[] = Array.isArray(documents) ? documents : []
    const [error] = list.flatMap((each) => each.errors)
    if (error !== undefined) return { reason: error.message.split(/ at line |\n/)[0]!, offset: error.pos[0] }
    return list.map(findUnresolvedAlias).find((each) => each !== null) ?? list.flatMap(listTokens)
  },
  refuse(written, { style, before, after, isWhole }) {
    if (OTHERWISE_READ.test(written)) return 'it has a character that YAML does not take as it is'
    if (style === 'literal' || style === 'folded') return refuseInBlock(written, before)
    if (style === 'structure') return /^[\w-]+$/.test(written) ? null : 'only letters, digits, _ and - can be here'
    if (style === null && isInDirective(before)) return 'no value can be in a directive'
    if (style !== 'double' && written.includes('\n')) return 'it has several lines'
    return style === 'plain' ? refusePlain(written, isWhole, after) : null
  },
}

/**
 * Control characters, those that end a line in YAML 1.1 or 1.2 alone, and those that are no text to one of the two. In double quotes the filter
 * escapes them.
 */
const OTHERWISE_READ = /[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\ufeff\ufffe\uffff]/

/** Where a block has no lines yet, its margin is found out by its first line. */
function refuseInBlock(written: string, before: string): string | null {
  const lines = (/\n[ \t]*$/.test(before) ? '\n' : '') + written
  return /\n *\t/.test(lines) ? 'a line of a block begins with a tab' : null
}

const isInDirective = (before: string) => before.slice(before.lastIndexOf('\n') + 1).startsWith('%')

/** Texts without quotes that parsers of YAML 1.1 stumble over: a merge key, a default value, numbers without digits, days that do not exist. */
function refusePlain(written: string, isWhole: boolean, after: string): string | null {
  if (written === '' && /^[ \t]*[:,\]}]/.test(after)) return 'nothing would be left of it'
  if (written.includes('\t')) return 'it has a tab'
  const isOdd = isWhole && (/^(?:<<|=|[-+]?0[bx]_+)$/i.test(written) || isNoDay(written))
  return isOdd ? 'parsers of YAML 1.1 refuse it without quotes' : null
}

function isNoDay(text: string): boolean {
  const [, year, month, day] = /^(\d{4})-(\d\d?)-(\d\d?)(?:$|[Tt \t])/.exec(text) ?? []
  if (day === undefined) return false
  const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)))
  return Number(year) === 0 || date.getUTCMonth() !== Number(month) - 1 || date.getUTCDate() !== Number(day)
}

/** The parser takes an alias of nothing; others don't. */
function findUnresolvedAlias(document: Document.Parsed): NotValid | null {
  let found: NotValid | null = null
  visit(document, {
    Alias(_key, node) {
      if (node.resolve(document) !== undefined) return undefined
      found = { reason: 'an alias of nothing', offset: node.range?.[0] ?? 0 }
      return visit.BREAK
    },
  })
  return found
}

function listTokens(document: Document.Parsed): readonly Token[] {
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
