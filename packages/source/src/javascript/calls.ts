import type { CallExpression, NewExpression, Node, OptionalCallExpression } from '@babel/types'

/** Anything that calls a function or a class. */
export type Call = CallExpression | OptionalCallExpression | NewExpression

/** True for a call of a function or of a class. */
export function isCall(node: Node): node is Call {
  return node.type === 'CallExpression' || node.type === 'OptionalCallExpression' || node.type === 'NewExpression'
}
