import type { ObstacleCode } from '../obstacles.ts'
import { types } from '../tree/grammar.ts'
import { findAncestor, findSibling, type TreeNode } from '../tree/node.ts'
import type { ChangedLiteral, TreeRewriting } from '../tree/rewriting.ts'

/** Methods that make a text of its own of one that lasts as long as the program. */
const OWNED = /^(?:to_string|to_owned|into|parse|clone)$/

/** How Rust reads its environment. */
export const rustRewriting: TreeRewriting = {
  read({ name, form }, literal) {
    const read = `std::env::var("${name}").expect("${name} is not set")`
    if (form === 'number') return `${read}.parse().expect("${name} is not a number")`
    return isReceiver(literal.node) || isOwnedArgument(literal) ? read : `&${read}`
  },
  join: ' + ',
  within: () => null,
  isWhole: () => true,
  obstacle,
  fallback({ node, text, grammar }) {
    // `env::var("NAME").unwrap_or("...".to_string())`
    for (let at: TreeNode | null = node; at !== null; at = at.parent) {
      const whole = text.slice(at.start, at.end)
      if (
        at.type === 'CallExpression' &&
        /^(?:std::)?env::var\(/.test(whole) &&
        /\.unwrap_or(?:_else)?\(/.test(whole) &&
        grammar.readName(whole) !== undefined
      )
        return at
    }
    return null
  },
  start: () => 'cargo run',
}

function obstacle(literal: ChangedLiteral): ObstacleCode | null {
  const { node, text } = literal
  if (findAncestor(node, types('ConstItem StaticItem')) !== null) return 'constant'
  if (findAncestor(node, types('Attribute LiteralPattern')) !== null || isFixedInMacro(literal)) return 'macro'
  if (/^b/.test(text.slice(node.start, node.end))) return 'borrowed'
  if (isReceiver(node)) return OWNED.test(getMethod(literal) ?? '') ? null : 'borrowed'
  const { parent } = node
  if (node.type === 'Integer')
    return parent?.type === 'LetDeclaration' && !/:/.test(text.slice(parent.start, node.start)) ? 'number-type' : null
  const isKept =
    parent?.type === 'FieldInitializer' ||
    parent?.type === 'AssignmentExpression' ||
    parent?.type === 'ExpressionStatement' ||
    parent?.type === 'ReturnExpression' ||
    parent?.type === 'Block'
  return isKept ? 'borrowed' : null
}

/** Macros whose first text says how the others are printed. */
const PRINTING = /\b(?:e?print(?:ln)?|format|write|writeln|panic|info|warn|error|debug|trace|assert\w*|vec)\s*!\s*$/

/** True for what a macro must have as it is: all of it, unless the macro prints, and then the format and numbers. */
function isFixedInMacro({ node, text }: ChangedLiteral): boolean {
  const macro = findAncestor(node, types('MacroInvocation'))
  if (macro === null) return false
  const group = node.parent!
  const isOwn = group.parent === macro
  const isPrinting = PRINTING.test(text.slice(macro.start, text.indexOf('(', macro.start)))
  return !isPrinting || node.type === 'Integer' || (isOwn && node.index <= 1)
}

function isReceiver(node: TreeNode): boolean {
  return node.parent?.type === 'FieldExpression' && node.index === 0
}

function getMethod({ node, text }: ChangedLiteral): string | undefined {
  const method = findSibling(node, 1)
  return method === undefined ? undefined : text.slice(method.start, method.end).replace(/^\./, '')
}

/** `String::from("...")` takes a text of its own as well. */
function isOwnedArgument({ node, text }: ChangedLiteral): boolean {
  const list = node.parent
  return list?.type === 'ArgList' && /\bString::from$/.test(text.slice(Math.max(0, list.start - 14), list.start))
}
