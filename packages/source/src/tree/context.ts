import { callStep, commandStep, getGroup } from './call-step.ts'
import { describeOperation, isBranch, isKey, namedStep } from './named-step.ts'
import { findFunctionName } from './names.ts'
import type { TreeNode } from './node.ts'
import { type Context, joinContext, listNames, type Place, type Step, type TreeText } from './step.ts'
import { isTransparentNode } from './through.ts'

/**
 * Finds out what a value in a syntax tree is given to.
 *
 * @returns `null` where the text is no value: a key, the name of a module
 */
export function treeContext(source: TreeText, literal: TreeNode): Context | null {
  const steps: Step[] = []
  for (let child = literal; child.parent !== null; child = child.parent) {
    const place = { ...source, child, parent: child.parent }
    const step = takeStep(place, steps.length > 0)
    if (step === 'no value') return null
    if (step === 'stop') break
    steps.unshift(...listSteps(place, step))
    if (step?.last === true) return lastContext(source, child.parent, step, steps)
  }
  return joinContext(steps, listNames(steps))
}

/** What a node says, and whether the value is one of two there. */
function listSteps(place: Place, step: Step | null): readonly Step[] {
  const own = step === null ? [] : [step]
  return step?.variable === undefined && isBranch(place) ? [...own, BRANCH] : own
}

/** What all nodes say together, up to the one that says all. */
function lastContext(source: TreeText, last: TreeNode, step: Step, steps: readonly Step[]): Context {
  const names = listNames(steps)
  const isMember = step.callee !== undefined && step.isNamed !== true && names.length > 0
  const group = isMember ? getGroup(source, last) : undefined
  return joinContext(steps, group === undefined ? names : [group, ...names])
}

const BRANCH: Step = { isBranch: true }

/** What one node says of a value below it; `null` where it says nothing and those above it may. */
function takeStep(place: Place, isInner: boolean): Step | null | 'no value' | 'stop' {
  const { parent, grammar } = place
  if (grammar.noValues.has(parent.type) || isKey(place)) return 'no value'
  const named = grammar.named.has(parent.type) ? namedStep(place) : null
  if (named === 'stop') return 'stop'
  if (grammar.calls.has(parent.type)) return callStep(place, named, isInner)
  const command = grammar.commands?.has(parent.type) === true ? commandStep(place, named, isInner) : null
  if (command !== null) return command
  if (named !== null) return { ...named, last: named.last ?? grammar.last.has(parent.type) }
  return findOuterStep(place)
}

function findOuterStep(place: Place): Step | null | 'stop' {
  const { child, parent, grammar } = place
  if (grammar.operations.has(parent.type)) return describeOperation(place)
  if (grammar.functions.has(parent.type)) return { name: findFunctionName(place, parent), last: true }
  if (grammar.bodies.has(parent.type)) return grammar.returns.has(child.type) ? null : 'stop'
  return isTransparentNode(grammar, parent) ? null : 'stop'
}
