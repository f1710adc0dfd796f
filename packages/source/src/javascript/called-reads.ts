import { readFromCall } from '../called-reads.ts'
import type { SyntaxNode } from './parser.ts'
import { findFixedValue, findUse, type ReadNode } from './use.ts'

/** `requireEnv('DOME_KEY')`, `env.get('DOME_PORT', 4100)`: a read by a function of the program, as its name says. */
export function readCall(call: SyntaxNode, above: readonly SyntaxNode[]): readonly ReadNode[] {
  const [first, second] = call.arguments as (SyntaxNode | undefined)[]
  if (first?.type !== 'StringLiteral') return []
  const name = String(first.value)
  const called = readFromCall(getName(call.callee as SyntaxNode), name, second !== undefined)
  if (called === null) return []
  const use = findUse(call, above)
  const needed = called.needed && use.needed
  const fallback = second === undefined ? use.fallback : findFixedValue(second)
  return [{ name, at: call, needed, takenAs: called.takenAs ?? use.takenAs, fallback, keptAs: null, built: false }]
}

/** `env.get` of `this.env.get`. */
function getName({ type, name, property, object }: SyntaxNode): string {
  if (type !== 'MemberExpression') return typeof name === 'string' ? name : ''
  const { name: own, property: last } = object as SyntaxNode
  const before = typeof own === 'string' ? own : (last as SyntaxNode | undefined)?.name
  return `${before ?? ''}.${(property as SyntaxNode).name ?? ''}`
}
