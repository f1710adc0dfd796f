import type { Node, ObjectExpression, Program } from '@babel/types'
import { isPathKey } from '@mappa/core/definition/naming'
import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import { getRange, type TextRange } from '@mappa/source/javascript/place'
import { readPlainName, visit } from '@mappa/source/javascript/tree'
import { findMember, findNode, getKey, getSourceRange, parseDefinition, unwrap } from '../definition/parse.ts'
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
  const { json } = parsed
  const node = findNode(parsed.root, keys)
  const words = node?.type === 'CallExpression' ? node.arguments : []
  const options = json ? node : unwrap(words[1])
  if (options?.type !== 'ObjectExpression') return null
  const members = options.properties
  const optional = members.find((each) => getKey(each) === 'optional')
  if (optional === undefined) return null
  const kept = members
    .filter((each) => each !== optional)
    .map((each) => getSourceRange(each, parsed))
    .map(({ start, end }) => text.slice(start, end))
  const all = value === null ? kept : [...kept, writeDefaultMember(value, text, json)]
  const [before] = words
  const { start, end } = getSourceRange(options, parsed)
  const edit: TextEdit =
    all.length === 0 && before !== undefined
      ? { from: getSourceRange(before, parsed).end, to: end, by: '' }
      : { from: start, to: end, by: `{ ${all.join(', ')} }` }
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
  object: ObjectExpression,
  [key, ...rest]: readonly string[],
  style: Style,
  entry: (key: string) => string,
): TextEdit[] | null {
  const existing = findMember(object, key!)
  if (existing !== undefined) {
    const inner = unwrap(existing.value)
    return rest.length === 0 || inner?.type !== 'ObjectExpression' ? null : descend(inner, rest, style, entry)
  }
  const indent = findIndent(object, style)
  return insertMember(object, nestMember([key!, ...rest], indent, style, entry), style)
}

/** The text of a member, within as many new groups as its path needs. */
function nestMember(
  [key, ...rest]: readonly string[],
  indent: string,
  style: Style,
  entry: (key: string) => string,
): string {
  if (rest.length === 0) return entry(key!)
  const inner = nestMember(rest, indent + style.unit, style, entry)
  const comma = style.json ? '' : ','
  return `${quoteKey(key!, style)}: {\n${indent}${style.unit}${inner}${comma}\n${indent}}`
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

function insertMember(object: ObjectExpression, member: string, style: Style): TextEdit[] {
  const { text, json } = style
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const lines = (each: string) => each.replaceAll('\n', eol)
  const last = object.properties.at(-1)
  const outer = getSourceRange(object, style)
  const indent = findIndent(object, style)
  if (last === undefined) {
    const margin = findLineIndent(text, outer.start)
    const by = lines(`\n${indent}${member}${json ? '' : ','}\n${margin}`)
    return [{ from: outer.start + 1, to: outer.end - 1, by }]
  }
  const { start, end } = getSourceRange(last, style)
  const close = outer.end - 1
  const comma = findComma(text, end, close)
  const isOnOneLine = !text.slice(outer.start, start).includes('\n')
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

function findIndent(object: ObjectExpression, style: Style): string {
  const { text, unit } = style
  const outer = getSourceRange(object, style)
  const [first] = object.properties
  const { start } = first === undefined ? outer : getSourceRange(first, style)
  return text.slice(outer.start, start).includes('\n')
    ? findLineIndent(text, start)
    : findLineIndent(text, outer.start) + unit
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
function findMakerName(program: Program): { name: string; edit: TextEdit | null } | null {
  const names = new Map<string, { readonly local: string; readonly range: TextRange }>()
  visit(program, (node) => {
    const named = readNamed(node)
    if (named === null || names.has(named.imported)) return
    names.set(named.imported, { local: named.local, range: getRange(node) })
  })
  const maker = names.get('setting')
  if (maker !== undefined) return { name: maker.local, edit: null }
  const beside = names.get('defineSettings')?.range.end
  return beside === undefined ? null : { name: 'setting', edit: { from: beside, to: beside, by: ', setting' } }
}

/** What an import, or the pattern of a call of `require`, takes out of a module. */
function readNamed(node: Node): { readonly imported: string; readonly local: string } | null {
  if (node.type === 'ImportSpecifier')
    return { imported: readPlainName(node.imported), local: readPlainName(node.local) }
  if (node.type === 'ObjectProperty') return { imported: readPlainName(node.key), local: readPlainName(node.value) }
  return null
}
