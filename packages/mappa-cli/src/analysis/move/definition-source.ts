import { isPathKey } from '@mappa/core/definition/naming'
import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import type { SyntaxNode } from '@mappa/source/javascript/parser'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import { findNode, getKey, parseDefinition, unwrap } from '../definition/parse.ts'
import { writeLiteral } from '../init/draft.ts'

/** A setting to add to a definition. */
export interface NewSetting {
  readonly keys: readonly string[]
  readonly kind: string
  readonly description: string
  readonly secret: boolean
  /** True where pages get it. */
  readonly public: boolean
  /** The variable name, where it is not the one that follows from the path. */
  readonly name: string | null
  /** What holds where no layer has a value; `null` for none. */
  readonly default: string | number | null
}

/**
 * Adds a setting to the source of a definition, and leaves all else as it stands: comments, quotes, indents, and whether a
 * last comma is written.
 *
 * @param text the source: TypeScript, JavaScript or JSON
 * @returns the new source; `null` where there is no place in it that can be changed safely
 */
export function addSetting(text: string, file: string, added: NewSetting): string | null {
  const parsed = parseDefinition(text, file)
  if (parsed === null) return null
  const { root, json, shift } = parsed
  const maker = json ? null : findMakerName(parsed.program)
  const style: Style = { text, shift, quote: json ? '"' : chooseQuote(text), json, unit: findUnit(text) }
  const edits = descend(root, added.keys, style, (key) => toEntry(key, added, maker?.name ?? 'setting', style))
  if (edits === null) return null
  return applyEdits(text, maker?.edit == null ? edits : [...edits, maker.edit])
}

/**
 * Takes `optional: true` from a setting of a definition, since code needs its value; with a default, that is put in its place.
 *
 * @returns the new source; `null` where the setting is written in a way that can't be changed safely
 */
export function requireSetting(
  text: string,
  file: string,
  keys: readonly string[],
  value: string | number | null,
): string | null {
  const parsed = parseDefinition(text, file)
  if (parsed === null) return null
  const { json, shift } = parsed
  const node = findNode(parsed.root, keys)
  const words = node?.type === 'CallExpression' ? (node.arguments as SyntaxNode[]) : []
  const options = json ? node : unwrap(words[1])
  if (options?.type !== 'ObjectExpression') return null
  const members = options.properties as SyntaxNode[]
  const optional = members.find((each) => getKey(each) === 'optional')
  if (optional === undefined) return null
  const kept = members
    .filter((each) => each !== optional)
    .map((each) => text.slice(each.start - shift, each.end - shift))
  const all = value === null ? kept : [...kept, writeDefaultMember(value, text, json)]
  const [before] = words
  const edit: TextEdit =
    all.length === 0 && before !== undefined
      ? { from: before.end, to: options.end, by: '' }
      : { from: options.start - shift, to: options.end - shift, by: `{ ${all.join(', ')} }` }
  return applyEdits(text, [edit])
}

function writeDefaultMember(value: string | number, text: string, json: boolean): string {
  return json ? `"default": ${writeLiteral(value, '"')}` : `default: ${writeLiteral(value, chooseQuote(text))}`
}

/** How the source is written. */
interface Style {
  readonly text: string
  /** How much further to the right offsets are in the tree than in the text. */
  readonly shift: number
  readonly quote: string
  readonly json: boolean
  readonly unit: string
}

/** Goes down the groups that exist, and makes those that do not. */
function descend(
  object: SyntaxNode,
  [key, ...rest]: readonly string[],
  style: Style,
  entry: (key: string) => string,
): TextEdit[] | null {
  const members = object.properties as readonly SyntaxNode[]
  const existing = members.find((each) => getKey(each) === key)
  if (existing !== undefined) {
    const inner = unwrap(existing.value)
    return rest.length === 0 || inner?.type !== 'ObjectExpression' ? null : descend(inner, rest, style, entry)
  }
  const indent = findIndent(object, style)
  return insertMember(object, nestMember(key!, rest, indent, style, entry), style)
}

/** The text of a member, within as many new groups as its path needs. */
function nestMember(
  key: string,
  rest: readonly string[],
  indent: string,
  style: Style,
  entry: (key: string) => string,
): string {
  if (rest.length === 0) return entry(key)
  const inner = nestMember(rest[0]!, rest.slice(1), indent + style.unit, style, entry)
  const comma = style.json ? '' : ','
  return `${quoteKey(key, style)}: {\n${indent}${style.unit}${inner}${comma}\n${indent}}`
}

function toEntry(key: string, added: NewSetting, maker: string, style: Style): string {
  const { kind, description, secret, name } = added
  if (style.json) {
    const own = added.default === null ? {} : { default: added.default }
    const options = {
      kind,
      description,
      ...(secret ? { secret } : {}),
      ...(added.public ? { public: true } : {}),
      ...(name === null ? {} : { name }),
      ...own,
    }
    return `${JSON.stringify(key)}: ${JSON.stringify(options, null, 1).replace(/\n */g, ' ')}`
  }
  const { quote } = style
  const written = description.replace(/[\\'"]/g, (each) => (each === '\\' || each === quote ? `\\${each}` : each))
  const options = [
    ...(secret ? ['secret: true'] : []),
    ...(added.public ? ['public: true'] : []),
    ...(name === null ? [] : [`name: ${quote}${name}${quote}`]),
    ...(added.default === null ? [] : [`default: ${writeLiteral(added.default, quote)}`]),
  ]
  return `${key}: ${maker}.${kind}(${quote}${written}${quote}${options.length === 0 ? '' : `, { ${options.join(', ')} }`})`
}

function insertMember(object: SyntaxNode, member: string, style: Style): TextEdit[] {
  const { text, shift, json } = style
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const lines = (each: string) => each.replaceAll('\n', eol)
  const members = object.properties as readonly SyntaxNode[]
  const last = members.at(-1)
  const indent = findIndent(object, style)
  if (last === undefined) {
    const from = object.start - shift + 1
    const outer = findLineIndent(text, object.start - shift)
    return [{ from, to: object.end - shift - 1, by: lines(`\n${indent}${member}${json ? '' : ','}\n${outer}`) }]
  }
  const end = last.end - shift
  const close = object.end - shift - 1
  const comma = findComma(text, end, close)
  const isOnOneLine = !text.slice(object.start - shift, last.start - shift).includes('\n')
  const from = comma ?? end
  const at = isOnOneLine ? from : endOfLine(text, from, close)
  const space = isOnOneLine ? ' ' : `\n${indent}`
  // Where the last member has a comma, the new one gets one too.
  if (comma !== null) return [{ from: at, to: at, by: lines(`${space}${member},`) }]
  return [
    { from: end, to: end, by: ',' },
    { from: at, to: at, by: lines(`${space}${member}`) },
  ]
}

/** Behind what stands on the line of the last member: its comma and a comment, perhaps. */
function endOfLine(text: string, from: number, close: number): number {
  const end = text.indexOf('\n', from)
  if (end < 0 || end > close) return from
  return text[end - 1] === '\r' ? end - 1 : end
}

/** The offset behind the comma between two offsets, comments left aside; `null` where there is none. */
function findComma(text: string, from: number, to: number): number | null {
  const bare = text.slice(from, to).replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, (comment) => ' '.repeat(comment.length))
  const at = bare.indexOf(',')
  return at < 0 ? null : from + at + 1
}

function findIndent(object: SyntaxNode, { text, shift, unit }: Style): string {
  const [first] = object.properties as readonly SyntaxNode[]
  const ownLine = first !== undefined && text.slice(object.start - shift, first.start - shift).includes('\n')
  return ownLine ? findLineIndent(text, first.start - shift) : findLineIndent(text, object.start - shift) + unit
}

function findLineIndent(text: string, at: number): string {
  const from = text.lastIndexOf('\n', at - 1) + 1
  return /^[ \t]*/.exec(text.slice(from, at))![0]
}

/** One step to the right, as the file takes them. */
function findUnit(text: string): string {
  return /\n(\t| {2,8})\S/.exec(text)?.[1] ?? '  '
}

function chooseQuote(text: string): string {
  return (text.match(/"/g)?.length ?? 0) > (text.match(/'/g)?.length ?? 0) ? '"' : "'"
}

function quoteKey(key: string, { json }: Style): string {
  return !json && isPathKey(key) ? key : JSON.stringify(key)
}

/** The name of `setting` in the file, and the edit that imports it where only `defineSettings` is. */
function findMakerName(program: SyntaxNode): { name: string; edit: TextEdit | null } | null {
  let beside: SyntaxNode | null = null
  let found: string | null = null
  visit(program, [], (node) => {
    const isImport = node.type === 'ImportSpecifier'
    if (!isImport && node.type !== 'ObjectProperty') return
    const imported = readPlainName(isImport ? node.imported : node.key)
    if (imported === 'setting') found ??= readPlainName(isImport ? node.local : node.value)
    if (imported === 'defineSettings') beside ??= node
  })
  if (found !== null) return { name: found, edit: null }
  const { end } = (beside ?? {}) as { end?: number }
  return end === undefined ? null : { name: 'setting', edit: { from: end, to: end, by: ', setting' } }
}
