import type {
  BinaryExpression,
  CallExpression,
  LogicalExpression,
  Node,
  NumericLiteral,
  StringLiteral,
  TemplateElement,
  TemplateLiteral,
} from '@babel/types'
import type { TextEdit } from '@mappa/core/text/edits'
import type { ReadVariable, Replaceable, Replacement, Rewriting } from '../rewriting.ts'
import { environmentName } from './context.ts'
import { findLiteralObstacle } from './literal-obstacle.ts'
import { countFaults, parseSource } from './parser.ts'
import { getPosition, getRange, type TextRange } from './place.ts'
import { joinText, visit } from './tree.ts'
import { writeRead } from './write-read.ts'

/** How JavaScript and TypeScript read settings: by an expression of the typed settings, or from `process.env`. */
export const javascriptRewriting: Rewriting = {
  // Declarations hold types alone.
  canRead: (file) => !/\.d\.[cm]?ts$/.test(file),
  find(text, file) {
    const tree = parseSource(text, file)
    if (tree === null) return null
    const language = /\.[cm]?tsx?$/.test(file) ? 'typescript' : 'javascript'
    const found: Replaceable[] = []
    visit(tree, (node, above) => {
      const literal = readLiteral(node, above)
      if (literal !== null) found.push(toReplaceable({ ...literal, text, language }))
    })
    return found
  },
  faults: countFaults,
  // The program starts as it did before: it loads its settings itself.
  start: () => null,
}

type LiteralNode = StringLiteral | NumericLiteral | BinaryExpression | TemplateElement | TemplateLiteral

/** A value in code. */
interface Literal {
  readonly text: string
  readonly node: LiteralNode
  /** The nodes above it, the nearest last. */
  readonly above: readonly Node[]
  readonly value: string
  readonly language: 'javascript' | 'typescript'
}

/** The value that a node is: a text, several that `+` joins, a number, or the fixed part of a template. */
function readLiteral(node: Node, above: readonly Node[]): Pick<Literal, 'node' | 'above' | 'value'> | null {
  switch (node.type) {
    case 'StringLiteral':
    case 'NumericLiteral':
      return { node, above: [...above], value: String(node.value) }
    case 'BinaryExpression': {
      const value = joinText(node)
      return value === null ? null : { node, above: [...above], value }
    }
    case 'TemplateElement': {
      const value = node.value.cooked ?? ''
      const template = above.at(-1)
      // Where it is all there is, the template itself is the value.
      const isAlone = template?.type === 'TemplateLiteral' && template.quasis.length === 1
      return isAlone ? { node: template, above: above.slice(0, -1), value } : { node, above: [...above], value }
    }
    default:
      return null
  }
}

function toReplaceable(literal: Literal): Replaceable {
  const { node, above, value } = literal
  const logical = findLogical(node, above)
  return {
    ...getPosition(node),
    ...getRange(node),
    value,
    form: node.type === 'NumericLiteral' ? 'number' : 'text',
    variable: logical?.variable ?? null,
    obstacle: findLiteralObstacle(node, above),
    replace: (variable) => replaceWhole(literal, logical, variable),
    replaceAround: (variable, start, end) => replaceConditional(literal, variable, { start, end }),
    // Of texts that are joined, each is a value of its own.
    ...(node.type === 'BinaryExpression' || node.type === 'NumericLiteral'
      ? {}
      : {
          replacePart: (variable: ReadVariable, start: number, end: number) =>
            replacePart(literal, variable, { start, end }),
        }),
  }
}

/** What stands in for a variable of the environment that has no value. */
interface Fallback {
  readonly node: LogicalExpression
  readonly variable: string
}

/** `process.env.DOME_KEY || '...'` around the text. */
function findLogical(node: Node, above: readonly Node[]): Fallback | null {
  const parent = above.at(-1)
  if (parent?.type !== 'LogicalExpression' || parent.right !== node) return null
  const variable = environmentName(parent.left)
  return variable === undefined ? null : { node: parent, variable }
}

function replaceWhole(literal: Literal, fallback: Fallback | null, variable: ReadVariable): Replacement {
  const { text, node, above, language } = literal
  const isFallback = fallback?.variable === variable.name
  // A setting that is a number needs no call that makes one.
  const call = findNumberCall(fallback?.node ?? node, above.at(fallback === null ? -1 : -2))
  if (
    call !== null &&
    variable.expression !== undefined &&
    variable.form === 'number' &&
    (fallback === null || isFallback)
  )
    return [insert(text, getRange(call), writeRead(variable, 'number', language))]
  const expression = writeRead(variable, node.type === 'NumericLiteral' ? 'number' : 'text', language)
  if (isFallback) return [insert(text, getRange(fallback.node), expression)]
  const { start, end } = getRange(node)
  if (node.type === 'TemplateElement') return [{ from: start, to: end, by: `\${${expression}}` }]
  return [insert(text, { start, end }, above.at(-1)?.type === 'JSXAttribute' ? `{${expression}}` : expression)]
}

/** Replaces a conditional that the value is a branch of, and the variable before it that it stands in for. */
function replaceConditional(
  { text, node, above, language }: Literal,
  variable: ReadVariable,
  range: TextRange,
): Replacement {
  const expression = writeRead(variable, node.type === 'NumericLiteral' ? 'number' : 'text', language)
  const logical = above.findLast(
    (each): each is LogicalExpression => each.type === 'LogicalExpression' && getRange(each).start < range.start,
  )
  const isFallback =
    logical !== undefined &&
    environmentName(logical.left) === variable.name &&
    surrounds(getRange(logical.right), range)
  return [insert(text, isFallback ? getRange(logical) : range, expression)]
}

/** True for a range that is another one, or that with a pair of parentheses around it. */
function surrounds(outer: TextRange, { start, end }: TextRange): boolean {
  return outer.start <= start && outer.end >= end && outer.end - outer.start <= end - start + 2
}

/** The call that makes a number of a value, in ten digits. */
function findNumberCall(value: Node, parent: Node | undefined): CallExpression | null {
  if (parent?.type !== 'CallExpression') return null
  const [first, radix] = parent.arguments
  const isDecimal = radix === undefined || (radix.type === 'NumericLiteral' && radix.value === 10)
  const makesNumber = parent.callee.type === 'Identifier' && /^(Number|parseInt|parseFloat)$/.test(parent.callee.name)
  return first === value && isDecimal && makesNumber ? parent : null
}

/** Escapes that a template does not have. */
const OCTAL = /\\(?:[1-9]|0\d)/

/** Takes a value out of a text that holds more: the text becomes a template, if it is none yet. */
function replacePart({ text, node, above, language }: Literal, variable: ReadVariable, part: TextRange): Replacement {
  const { start, end } = getRange(node)
  const read = `\${${writeRead(variable, 'text', language)}}`
  const isElement = node.type === 'TemplateElement'
  const before = text.slice(isElement ? start : start + 1, part.start)
  const after = text.slice(part.end, isElement ? end : end - 1)
  // What stands behind a backslash is part of it.
  if (/(?:^|[^\\])(?:\\\\)*\\$/.test(before)) return 'escapes'
  if (isElement || node.type === 'TemplateLiteral') return [{ from: part.start, to: part.end, by: read }]
  const inElement = above.at(-1)?.type === 'JSXAttribute'
  // Texts of elements have entities and no escapes.
  if (OCTAL.test(before + after) || (inElement && /[\\&]/.test(before + after))) return 'escapes'
  const [left, right] = [before, after].map((each) => each.replace(/`|\$\{/g, '\\$&'))
  const template = `\`${left}${read}${right}\``
  return [insert(text, { start, end }, inElement ? `{${template}}` : template)]
}

/** Puts an expression in the place of a node, apart from the words around it. */
function insert(text: string, { start: from, end: to }: TextRange, expression: string): TextEdit {
  const before = /[\w$]/.test(text[from - 1] ?? '') ? ' ' : ''
  const after = /[\w$]/.test(text[to] ?? '') ? ' ' : ''
  return { from, to, by: `${before}${expression}${after}` }
}
