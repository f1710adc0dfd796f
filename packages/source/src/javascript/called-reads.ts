import type { CallExpression, NewExpression, Node } from '@babel/types'
import { readFromCall } from '../called-reads.ts'
import { findFixedValue, findUse, type ReadNode } from './use.ts'

/** `requireEnv('DOME_KEY')`, `env.get('DOME_PORT', 4100)`: a read by a function of the program, as its name says. */
export function readCall(call: CallExpression | NewExpression, above: readonly Node[]): readonly ReadNode[] {
  const [first, second] = call.arguments
  if (first?.type !== 'StringLiteral') return []
  const name = first.value
  const called = readFromCall(getName(call.callee), name, second !== undefined)
  if (called === null) return []
  const use = findUse(call, above)
  const needed = called.needed && use.needed
  const fallback = second === undefined ? use.fallback : findFixedValue(second)
  const { presence } = use
  return [
    { name, at: call, needed, takenAs: called.takenAs ?? use.takenAs, fallback, presence, keptAs: null, built: false },
  ]
}

/** `env.get` of `this.env.get`. */
function getName(callee: Node): string {
  if (callee.type !== 'MemberExpression') return callee.type === 'Identifier' ? callee.name : ''
  const { object, property } = callee
  const before = object.type === 'MemberExpression' ? object.property : object
  return `${readIdentifier(before)}.${readIdentifier(property)}`
}

const readIdentifier = (node: Node): string => (node.type === 'Identifier' ? node.name : '')
