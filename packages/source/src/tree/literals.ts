import { makeLocator } from '@mappa/core/text/locator'
import type { SourceLiteral, WantedValue } from '../source.ts'
import { treeContext } from './context.ts'
import type { TreeNode } from './node.ts'
import { type TreeText, written } from './step.ts'

/** A value, and the node that it stands in. */
export interface TreeLiteral extends SourceLiteral {
  readonly node: TreeNode
}

/** Shorter texts are words; the shortest number that is a setting is a port. */
const SHORTEST = { text: 4, number: 2 } as const

/** The fixed values of a file, with what they are given to. */
export function findTreeLiterals(
  source: TreeText,
  tree: TreeNode,
  file: string,
  isWanted: WantedValue = () => true,
): readonly TreeLiteral[] {
  const { text } = source
  const placeOf = makeLocator(text)
  const found: TreeLiteral[] = []
  const add = (node: TreeNode, part: Pick<SourceLiteral, 'value' | 'form' | 'start' | 'end'>) => {
    const isShort = part.value.length < SHORTEST[part.form === 'number' ? 'number' : 'text']
    if (isShort || !isWanted(part.value, part.form)) return
    const context = treeContext(source, node)
    if (context !== null) found.push({ file, ...placeOf(part.start), ...part, ...context, node })
  }
  visit(tree, (node) => addLiterals(source, node, add))
  return found
}

/** Goes through a tree, and not below the nodes for which `take` gives false. */
function visit(tree: TreeNode, take: (node: TreeNode) => boolean): void {
  const waiting = [tree]
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (!take(node)) continue
    for (let at = node.children.length - 1; at >= 0; at--) waiting.push(node.children[at]!)
  }
}

type Add = (node: TreeNode, part: Pick<SourceLiteral, 'value' | 'form' | 'start' | 'end'>) => void

/** Takes what a node holds; `false` where nothing below it counts. */
function addLiterals(source: TreeText, node: TreeNode, add: Add): boolean {
  const { text, grammar } = source
  const { type, start, end } = node
  if (grammar.noValues.has(type)) return false
  if (grammar.openTexts?.has(type)) return addOpenText(node, text.slice(start, end), add)
  const joined = joinValue(source, node)
  if (joined !== null) {
    add(node, { value: joined, form: 'text', start, end })
    return false
  }
  if (grammar.numbers.has(type)) {
    // A number with a point is no port, whatever the parser makes of it.
    if (/^[1-9][\d_]*$/.test(text.slice(start, end)) && !/[.\w]/.test(text[end] ?? '') && text[start - 1] !== '.')
      add(node, { value: text.slice(start, end).replaceAll('_', ''), form: 'number', start, end })
    return false
  }
  if (!grammar.texts.has(type) && !grammar.formats.has(type)) return true
  const parts = listFixedParts(source, node)
  if (parts.length === 1 && node.children.length === 0) {
    add(node, { value: grammar.valueOf(text.slice(start, end)), form: 'text', start, end })
    return false
  }
  for (const part of parts) {
    const value = grammar.valueOf(`"${text.slice(part.start, part.end)}"`)
    if (value !== '') add(node, { value, form: 'template part', ...part })
  }
  return true
}

/** Takes a text that a word ends, without what moves all of its lines in; with an expression in it, it is no fixed value. */
function addOpenText(node: TreeNode, raw: string, add: Add): false {
  const last = raw.lastIndexOf('\n')
  if (last < 0 || raw.includes('#{')) return false
  const margin = /^[ \t]*/.exec(raw)![0]
  const value = raw.slice(margin.length, last).replaceAll(`\n${margin}`, '\n')
  add(node, { value, form: 'text', start: node.start + margin.length, end: node.start + last })
  return false
}

/** The fixed parts of a text with other parts in it, without the quotes. */
export function listFixedParts({ text }: TreeText, node: TreeNode): readonly { start: number; end: number }[] {
  const [opening, closing] = listQuotes(text.slice(node.start, node.end))
  const parts: { start: number; end: number }[] = []
  let start = node.start + opening
  for (const each of node.children.filter(({ type }) => !/^[Q"'`]/.test(type))) {
    if (each.start > start) parts.push({ start, end: each.start })
    start = each.end
  }
  if (node.end - closing > start) parts.push({ start, end: node.end - closing })
  return parts
}

/** How many characters the quotes at both ends of a text take, prefixes included. */
export function listQuotes(raw: string): readonly [opening: number, closing: number] {
  const heredoc = /^<<<?[~-]?\s*["'`]?(\w+)["'`]?[^\n]*\n/.exec(raw)
  if (heredoc !== null) return [heredoc[0].length, /\n?[ \t]*\w+$/.exec(raw)?.[0].length ?? 0]
  // `%q(...)` of Ruby.
  const percent = /^%[qQ]?[^\w\s]/.exec(raw)
  if (percent !== null) return [percent[0].length, 1]
  const [opening = ''] = /^[A-Za-z@$]*#*(?:"""|'''|["'`])/.exec(raw) ?? []
  const quote = /(?:"""|'''|["'`])$/.exec(opening)?.[0] ?? ''
  const hashes = /#*/.exec(opening.replace(/^[A-Za-z@$]*/, ''))![0]
  const closing = quote + hashes
  return [opening.length, raw.length > opening.length && raw.endsWith(closing) ? closing.length : 0]
}

/** The text that nothing but texts makes when joined; `null` for anything else. */
function joinValue(source: TreeText, node: TreeNode): string | null {
  const { grammar } = source
  const isJoined = grammar.joined.has(node.type)
  if (node.children.length < 2 || !(isJoined || grammar.operations.has(node.type))) return null
  const operators = isJoined ? [] : node.children.filter((_, at) => at % 2 === 1)
  if (operators.some((each) => !/^[+.&]$/.test(written(source, each)))) return null
  const operands = isJoined
    ? node.children.filter(({ type }) => type !== 'Comment')
    : node.children.filter((_, at) => at % 2 === 0)
  const values = operands.map((each) => readOperand(source, each))
  return values.includes(null) ? null : values.join('')
}

function readOperand(source: TreeText, node: TreeNode): string | null {
  const isText = source.grammar.texts.has(node.type) && node.children.length === 0
  return isText ? source.grammar.valueOf(written(source, node)) : joinValue(source, node)
}
