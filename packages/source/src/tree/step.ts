import type { SourceLiteral } from '../source.ts'
import type { Grammar } from './grammar.ts'
import type { TreeNode } from './node.ts'

/** What a value is given to. */
export type Context = Pick<SourceLiteral, 'names' | 'callee' | 'argument' | 'variable' | 'variableAround'>

/** A file that is read. */
export interface TreeText {
  readonly text: string
  readonly grammar: Grammar
}

/** What one node above a value says of it. */
export interface Step {
  readonly name?: string | undefined
  readonly callee?: string | undefined
  /** Which argument of it the value is, from 0. */
  readonly argument?: number | undefined
  readonly variable?: string | undefined
  /** True where the value is one of two, so that it does not stand in by itself for a variable further out. */
  readonly isBranch?: boolean
  /** True where what is further up says nothing of the value. */
  readonly last?: boolean
  /** True where another argument has named the value. */
  readonly isNamed?: boolean
}

/** A node on the way up from a value, with the one above it. */
export interface Place extends TreeText {
  readonly child: TreeNode
  readonly parent: TreeNode
}

/** A node as it is written; nothing for none. */
export function written({ text }: TreeText, node: TreeNode | undefined): string {
  return node === undefined ? '' : text.slice(node.start, node.end)
}

/** The names of steps, the outermost first. */
export function listNames(steps: readonly Step[]): readonly string[] {
  return steps.flatMap(({ name }) => name || [])
}

/** What steps say together. */
export function joinContext(steps: readonly Step[], names: readonly string[]): Context {
  // Only the function the value goes into directly counts.
  const call = steps.findLast((each) => each.callee !== undefined)
  const at = steps.findLastIndex((each) => each.variable !== undefined)
  const own = steps[at]?.variable ?? null
  const isOneOfTwo = own !== null && steps.slice(at + 1).some(({ isBranch }) => isBranch === true)
  const variable = isOneOfTwo ? { variable: null, variableAround: own } : { variable: own }
  const argument = call?.argument === undefined ? {} : { argument: call.argument }
  return { names, callee: call?.callee ?? null, ...argument, ...variable }
}
