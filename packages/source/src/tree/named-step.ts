import { findLastName } from './names.ts'
import { findSibling, type TreeNode } from './node.ts'
import { type Place, type Step, written } from './step.ts'

const COMPARISON = /^(?:===?|!==?|eql\?)$/
const ASSIGNMENT = /^(?::?=|=>|\?\?=|\|\|=|:)$/
const FALLBACK = /^(?:\|\||or|\?\?|\?:)$/

/** True for what stands before a colon or an arrow, or in square brackets behind a value: it names a value. */
export function isKey(place: Place): boolean {
  const { child, parent, grammar } = place
  const before = findSibling(child, -1)
  const owner = findSibling(child, -2)
  const isMember = written(place, before) === '[' && owner?.end === before!.start && !grammar.texts.has(owner.type)
  if (isMember) return true
  // The first half of a condition stands before a colon as well.
  if (written(place, before) === '?') return false
  return grammar.named.has(parent.type) && /^(?:=>|:)$/.test(written(place, findSibling(child, 1)))
}

/** The name that stands before an operator before a value; or what the value is compared with. */
export function namedStep(place: Place): Step | null | 'stop' {
  const compared = describeComparison(place)
  if (compared !== null) return compared
  const at = findOperator(place)
  if (at === null) return null
  const variable = findFallbackVariable(place, at)
  if (isTuple(place)) return { name: findTupleName(place, at), variable }
  const holder = findHolder(place, at)
  return holder === undefined ? null : { name: variable ?? findLastName(place, holder), variable }
}

/** Where the operator stands among the children that gives a value to what is before it; `null` if there is none. */
function findOperator(place: Place): number | null {
  const { child, parent } = place
  const isCondition = parent.children.slice(0, child.index).some((each) => written(place, each) === '?')
  for (let at = child.index - 1; at > 0; at--) {
    const each = parent.children[at]!
    const operator = each.end - each.start <= 3 ? written(place, each) : ''
    if (operator === ',' && !isTuple(place)) return null
    // The second half of a condition is given to nothing by its colon.
    if (ASSIGNMENT.test(operator) && !(operator === ':' && isCondition)) return at
  }
  return null
}

/** What holds the value behind an operator, without its type: `p` of `let p: u16 = 4100`. */
function findHolder(place: Place, at: number): TreeNode | undefined {
  const before = place.parent.children.slice(0, at)
  const colon = before.findLastIndex((each) => written(place, each) === ':' || each.type === 'TypeDef')
  const comma = before.findLastIndex((each) => written(place, each) === ',')
  const isTyped = written(place, place.parent.children[at]) === '=' && colon > comma
  const holders = before.slice(comma + 1, isTyped ? colon : undefined)
  return holders.filter(({ type }) => holders.length === 1 || !/Type|Modif|Visibility|Keyword/.test(type)).at(-1)
}

/** What a value is compared with, of tokens side by side. */
function describeComparison(place: Place): Step | null | 'stop' {
  const { child, parent, grammar } = place
  if (grammar.operations.size > 0) return null
  const [before, behind] = [findSibling(child, -1), findSibling(child, 1)]
  const isCounted = [before, behind].some((each) => /^[-+*/%]$/.test(written(place, each)))
  if (grammar.numbers.has(child.type) && isCounted) return 'stop'
  const other = findSibling(child, -2)
  if (other === undefined || parent.children.length < 3 || !COMPARISON.test(written(place, before))) return null
  return { name: findLastName(place, other), last: true }
}

/** True where several names get several values: `a, b := "x", "y"`. */
function isTuple(place: Place): boolean {
  const { type, children } = place.parent
  return /^(?:AssignStatement|VarDecl|VarSpec|ConstSpec|Assignment)$/.test(type) && written(place, children[1]) === ','
}

function findTupleName(place: Place, operator: number): string | undefined {
  const { child, parent } = place
  const isComma = (each: TreeNode) => written(place, each) === ','
  const at = parent.children.slice(operator + 1, child.index).filter(isComma).length
  const targets = parent.children
    .slice(0, operator)
    .filter((each) => !isComma(each) && !/Type|^var$|^const$/.test(each.type))
  const target = targets[at]
  return target === undefined ? undefined : findLastName(place, target)
}

/** The variable that a value stands in for, of tokens side by side: `key = ENV["DOME_KEY"] || "..."`. */
function findFallbackVariable({ child, parent, text, grammar }: Place, operator: number): string | undefined {
  const before = findSibling(child, -1)
  if (before === undefined || before.index <= operator) return undefined
  if (!FALLBACK.test(text.slice(before.start, before.end))) return undefined
  return grammar.readName(text.slice(parent.children[operator]!.end, before.start))
}

/** True for one of the two values of a conditional. */
export function isBranch(place: Place): boolean {
  const { child, parent } = place
  const before = written(place, findSibling(child, -1))
  if (before === '?' || before === 'else' || written(place, findSibling(child, 1)) === 'if') return true
  return before === ':' && parent.children.slice(0, child.index).some((each) => written(place, each) === '?')
}

/** A condition that compares, or holds several. */
const ASKS = /[=!]==?|&&|\|\||\.equals|\beq(?:ual)?l?\b/

/** What an operation says of one of its operands. */
export function describeOperation(place: Place): Step | null | 'stop' {
  const { child, grammar } = place
  const before = findSibling(child, -1)
  const operator = written(place, before ?? findSibling(child, 1))
  // What is counted with is no port.
  if (grammar.numbers.has(child.type) && /^[-+*/%]$/.test(operator)) return 'stop'
  if (COMPARISON.test(operator)) {
    const other = findSibling(child, before === undefined ? 2 : -2)
    return other === undefined ? 'stop' : { name: findLastName(place, other), last: true }
  }
  if (/^[%<>&|^*/-]+$/.test(operator) && operator !== '||') return 'stop'
  const variable = before === undefined ? undefined : findVariable(place, before, operator)
  return variable === undefined ? null : { name: variable, variable }
}

/** The variable that is read before an operator, which the value behind it stands in for. */
function findVariable({ parent, text, grammar }: Place, before: TreeNode, operator: string): string | undefined {
  if (!/^(?:\|\||or|\?\?|:|\?:|else)$/.test(operator)) return undefined
  // Of `a if b else c`, c stands in for a, whatever is asked.
  const asked = text.slice(parent.start, operator === 'else' ? parent.children[0]!.end : before.start)
  // `getenv('STAGE') === 'x' ? a : b` asks what the variable is, not whether it is there.
  return operator === ':' && ASKS.test(asked) ? undefined : grammar.readName(asked)
}
