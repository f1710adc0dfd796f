import { isTellingName } from '../../../../mappa/src/core/leaks/words.ts'
import type { SourceLiteral } from '../source.ts'
import type { Grammar } from './grammar.ts'
import { sibling, type TreeNode } from './node.ts'

/** What a value is given to. */
export type Context = Pick<SourceLiteral, 'names' | 'callee' | 'variable'>

/** A file that is read. */
export interface TreeText {
  readonly text: string
  readonly grammar: Grammar
}

interface Step {
  readonly name?: string | undefined
  readonly callee?: string | undefined
  readonly variable?: string | undefined
  /** True where what is further up says nothing of the value. */
  readonly last?: boolean
  /** True where another argument has named the value. */
  readonly isNamed?: boolean
}

/**
 * Finds out what a value in a syntax tree is given to.
 *
 * @returns `null` where the text is no value: a key, the name of a module
 */
export function treeContext(source: TreeText, literal: TreeNode): Context | null {
  const steps: Step[] = []
  for (let child = literal; child.parent !== null; child = child.parent) {
    const step = stepFrom(source, child, child.parent, steps)
    if (step === 'no value') return null
    if (step === 'stop') break
    if (step !== null) steps.unshift(step)
    if (step?.last !== true) continue
    const names = namesOf(steps)
    const group =
      step.callee === undefined || step.isNamed === true || names.length === 0
        ? undefined
        : groupOf(source, child.parent)
    return contextFrom(steps, group === undefined ? names : [group, ...names])
  }
  return contextFrom(steps, namesOf(steps))
}

function namesOf(steps: readonly Step[]): readonly string[] {
  return steps.flatMap(({ name }) => name || [])
}

function contextFrom(steps: readonly Step[], names: readonly string[]): Context {
  const callee = steps.findLast((each) => each.callee !== undefined)?.callee ?? null
  const variable = steps.findLast((each) => each.variable !== undefined)?.variable ?? null
  return { names, callee, variable }
}

const COMPARISON = /^(?:===?|!==?|eql\?)$/
const ASSIGNMENT = /^(?::?=|=>|\?\?=|\|\|=|:)$/
const FALLBACK = /^(?:\|\||or|\?\?|\?:|\?)$/

function stepFrom(source: TreeText, child: TreeNode, parent: TreeNode, below: readonly Step[]) {
  const { grammar } = source
  if (grammar.noValues.has(parent.type)) return 'no value'
  if (isKey(source, child, parent)) return 'no value'
  const named = grammar.named.has(parent.type)
    ? (comparedStep(source, child, parent) ?? namedStep(source, child, parent))
    : null
  if (named === 'stop') return 'stop'
  if (grammar.calls.has(parent.type)) return callStep(source, child, parent, named, below)
  const command = grammar.commands?.has(parent.type) === true ? commandStep(source, child, parent, named, below) : null
  if (command !== null) return command
  if (named !== null) return { ...named, last: named.last ?? grammar.last.has(parent.type) }
  if (grammar.operations.has(parent.type)) return operationStep(source, child, parent)
  if (grammar.functions.has(parent.type)) return { name: functionName(source, parent), last: true }
  if (grammar.bodies.has(parent.type)) return grammar.returns.has(child.type) ? null : 'stop'
  return isThrough(grammar, parent) ? null : 'stop'
}

function isThrough(grammar: Grammar, { type }: TreeNode): boolean {
  return [grammar.through, grammar.returns, grammar.joined, grammar.named, grammar.texts, grammar.formats].some(
    (each) => each.has(type),
  )
}

/** True for what stands before a colon or an arrow: it names the value behind it. */
function isKey({ text, grammar }: TreeText, child: TreeNode, parent: TreeNode): boolean {
  const next = sibling(child, 1)
  const before = sibling(child, -1)
  // What stands in square brackets behind a value is the name of a member of it.
  if (before !== undefined && child.index > 1 && text[before.start] === '[' && before.end - before.start === 1) {
    const owner = sibling(child, -2)
    if (owner !== undefined && !grammar.texts.has(owner.type) && owner.end === before.start) return true
  }
  if (next === undefined || !grammar.named.has(parent.type)) return false
  return /^(?:=>|:)$/.test(text.slice(next.start, next.end))
}

/** The name that stands before an operator before a value. */
function namedStep(source: TreeText, child: TreeNode, parent: TreeNode): Step | null {
  const { text } = source
  for (let at = child.index - 1; at >= 0; at--) {
    const each = parent.children[at]!
    const written = each.end - each.start <= 3 ? text.slice(each.start, each.end) : ''
    if (written === ',' && !isTuple(source, parent)) return null
    if (!ASSIGNMENT.test(written)) continue
    // The second half of a condition.
    if (written === ':' && parent.children.slice(0, at).some((one) => text.slice(one.start, one.end) === '?')) continue
    const before = parent.children.slice(0, at)
    const [first] = before
    if (first === undefined) return null
    // `let p: u16 = 4100`: the type stands between the name and the value.
    const colon = before.findLastIndex((one) => text.slice(one.start, one.end) === ':' || one.type === 'TypeDef')
    const comma = before.findLastIndex((one) => text.slice(one.start, one.end) === ',')
    const isTyped = written === '=' && colon > comma
    const holders = before.slice(comma + 1, isTyped ? colon : undefined)
    const variable = fallbackVariable(source, child, parent, at)
    if (isTuple(source, parent)) return { name: tupleName(source, child, parent, at), variable }
    const holder = holders
      .filter(({ type }) => !/Type|Modif|Visibility|Keyword/.test(type) || holders.length === 1)
      .at(-1)
    return holder === undefined ? null : { name: variable ?? lastName(source, holder), variable }
  }
  return null
}

/** What a value is compared with, of tokens side by side. */
function comparedStep(source: TreeText, child: TreeNode, parent: TreeNode): Step | null | 'stop' {
  if (source.grammar.operations.size > 0) return null
  const before = sibling(child, -1)
  const other = sibling(child, -2)
  const around = [before, sibling(child, 1)].map((each) =>
    each === undefined ? '' : source.text.slice(each.start, each.end),
  )
  if (source.grammar.numbers.has(child.type) && around.some((each) => /^[-+*/%]$/.test(each))) return 'stop'
  if (before === undefined || other === undefined || parent.children.length < 3) return null
  return COMPARISON.test(source.text.slice(before.start, before.end))
    ? { name: lastName(source, other), last: true }
    : null
}

/** What is said by a call without brackets: `set :port, 4100`. */
function commandStep(
  source: TreeText,
  child: TreeNode,
  parent: TreeNode,
  named: Step | null,
  below: readonly Step[],
): Step | null {
  const { text } = source
  const written = ({ start, end }: TreeNode) => text.slice(start, end)
  const own = parent.children.slice(0, child.index)
  const [first, second] =
    own[0] !== undefined && /^(?:return|raise|puts|if|unless|when|and|or|not)$/.test(written(own[0]))
      ? own.slice(1)
      : own
  const operator = own.findIndex((each) => /^(?:=|\|\|=|:=)$/.test(written(each)))
  if (first?.type !== 'Word' || operator >= 0) return null
  if (second !== undefined && (second.type === 'Operator' || second.start === first.end)) return null
  const callee = written(first).split(/\.|::/).at(-1)
  if (named !== null) return { ...named, callee, last: true }
  const [comma, before] = [own.at(-1), own.at(-2)]
  const isSecond = comma !== undefined && written(comma) === ',' && before !== undefined
  const name = isSecond && NAMERS.test(callee ?? '') && below.length === 0 ? namerText(source, before) : ''
  return { name: isTellingName(name) ? name : undefined, callee, last: true }
}

/** True where several names get several values: `a, b := "x", "y"`. */
function isTuple({ text }: TreeText, parent: TreeNode): boolean {
  const [, second] = parent.children
  const isDeclaration = /^(?:AssignStatement|VarDecl|VarSpec|ConstSpec|Assignment|Item)$/.test(parent.type)
  return isDeclaration && second !== undefined && text.slice(second.start, second.end) === ','
}

function tupleName(source: TreeText, child: TreeNode, parent: TreeNode, operator: number): string | undefined {
  const isComma = ({ start, end }: TreeNode) => source.text.slice(start, end) === ','
  const place = parent.children.slice(operator + 1, child.index).filter(isComma).length
  const targets = parent.children
    .slice(0, operator)
    .filter((each) => !isComma(each) && !/Type|^var$|^const$/.test(each.type))
  const target = targets[place]
  return target === undefined ? undefined : lastName(source, target)
}

/** The variable that a value stands in for, of tokens side by side: `key = ENV["DOME_KEY"] || "..."`. */
function fallbackVariable(source: TreeText, child: TreeNode, parent: TreeNode, operator: number): string | undefined {
  const before = sibling(child, -1)
  if (before === undefined || before.index <= operator) return undefined
  const { text, grammar } = source
  if (!FALLBACK.test(text.slice(before.start, before.end))) return undefined
  return grammar.readName(text.slice(parent.children[operator]!.end, before.start))
}

function operationStep(source: TreeText, child: TreeNode, parent: TreeNode): Step | null | 'stop' {
  const { text, grammar } = source
  const before = sibling(child, -1)
  const operator = before ?? sibling(child, 1)
  const written = operator === undefined ? '' : text.slice(operator.start, operator.end)
  const other = before === undefined ? sibling(child, 2) : sibling(child, -2)
  // What is counted with is no port.
  if (grammar.numbers.has(child.type) && /^[-+*/%]$/.test(written)) return 'stop'
  if (COMPARISON.test(written)) return other === undefined ? 'stop' : { name: lastName(source, other), last: true }
  if (before === undefined || !/^(?:\|\||or|\?\?|:|\?:|else)$/.test(written))
    return /^[%<>&|^*/-]+$/.test(written) ? 'stop' : null
  const variable = grammar.readName(text.slice(parent.start, before.start))
  return variable === undefined ? null : { name: variable, variable }
}

function callStep(source: TreeText, child: TreeNode, list: TreeNode, named: Step | null, below: readonly Step[]): Step {
  const { text, grammar } = source
  const callee = calleeOf(source, list)
  const call = list.parent ?? list
  const flag = flagOf(source, list)
  const args = list.children.filter(({ start, end }) => !/^[(),]$/.test(text.slice(start, end)))
  const at = args.indexOf(child)
  const [first, before] = [args[0], args[at - 1]].map((each) =>
    each?.type === 'Member' && each.children.length === 1 ? each.children[0] : each,
  )
  const firstText =
    first !== undefined && grammar.texts.has(first.type) ? grammar.valueOf(text.slice(first.start, first.end)) : ''
  if (at > 0 && /^[A-Z][A-Z0-9_]+$/.test(firstText)) {
    const variable = grammar.readName(text.slice(call.start, list.end))
    if (variable === firstText) return { name: variable, variable, callee }
  }
  if (named !== null) {
    const name = named.name === 'default' && flag !== undefined ? flag.replaceAll('-', '_') : named.name
    return { name, callee, last: true }
  }
  const beforeText = before === undefined ? '' : namerText(source, before)
  const fallback = /^(?:unwrap_or(?:_else)?|getOrElse|orElse)$/.test(callee ?? '')
    ? grammar.readName(text.slice(call.start, list.start))
    : undefined
  if (fallback !== undefined) return { name: fallback, variable: fallback, callee, last: true }
  const isNamer =
    (NAMERS.test(callee ?? '') && !/auth|connect|login/i.test(callee ?? '')) ||
    isFlag(source, list) ||
    isConstant(source, before)
  const name = isNamer && isTellingName(beforeText) && below.length === 0 ? beforeText.replace(/^-+/, '') : undefined
  const isWrapper = WRAPPERS.test(callee ?? '') && !isFlag(source, list)
  return { name, ...(isWrapper ? {} : { callee }), last: name !== undefined || !isWrapper, isNamed: name !== undefined }
}

/** True for what is written as constants are: `curl_setopt($ch, CURLOPT_USERPWD, '...')`. */
function isConstant({ text }: TreeText, node: TreeNode | undefined): boolean {
  return node !== undefined && /^[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+$/.test(text.slice(node.start, node.end))
}

/** The flag that a call declares: `port` of `add_argument("-p", "--port", default=4100)`. */
function flagOf({ text }: TreeText, list: TreeNode): string | undefined {
  const head = text.slice(list.start, Math.min(list.end, list.start + 80))
  return /^\(\s*(?:["']-\w["'],\s*)?["']-{1,2}([A-Za-z][\w-]*)["']/.exec(head)?.[1]
}

/** A text before a value that may say what the value is. */
function namerText({ text, grammar }: TreeText, before: TreeNode): string {
  const raw = text.slice(before.start, before.end)
  if (grammar.texts.has(before.type)) return grammar.valueOf(raw)
  if (isConstant({ text, grammar }, before)) return raw
  return /^:[a-z_]\w*$/i.test(raw) ? raw.slice(1) : ''
}

/** True for what declares a flag of the command line: `flag.String("addr", ":4100", "...")`. */
function isFlag({ text }: TreeText, list: TreeNode): boolean {
  return /(?:^|\b)flags?\.\w+$/i.test(text.slice(Math.max(0, list.start - 40), list.start).trimEnd())
}

const NAMERS =
  /^(?:set|get|put|add|append|define|register|provide|constant|value|option|config|env|getenv|setenv|header|item|store|default|ini|ini_set|add_argument|add_option|Setenv|Set|Add|SetDefault|StringVar|IntVar)(?:[_A-Z]\w*)?$/
/** Functions that give back what they are given, so that what is further up counts. */
const WRAPPERS =
  /^(?:str|int|float|bytes|bytearray|bool|String|Integer|parse|Parse|from|of|quote|unquote|join|encode|trim|freeze|byte|Some|Ok|format|Sprintf|array|list|dict|tuple|set|asList|listOf|arrayOf|mapOf|new|ServerAddress|SecretStr|Path|to|pair|Field|option|valueOf|toList|http_build_query)$/

/** What is called with some arguments: the last name before them. */
export function calleeOf({ text }: TreeText, list: TreeNode): string | undefined {
  const before = text.slice(Math.max(0, list.start - 80), list.start)
  const [, whole = ''] = /([A-Za-z_][\w.:?!>-]*?)\s*!?\s*$/.exec(before.replace(/<[\w, <>?]*>\s*$/, '')) ?? []
  // What signs and reads tokens takes a key, whatever the language calls it.
  if (/\bjwt(?:\.|::|->)(?:en|de)code$/i.test(whole)) return 'sign'
  if (/(?:^|[.:>])(?:URI|URL|Uri|Url)(?:\.|::)(?:create|parse|of|new)$/.test(whole)) return 'URI'
  return whole.split(/\.|::|->/).findLast((each) => each !== '')
}

/** Classes and functions that make what a program then works with. */
const MAKERS = /^(?:create|connect|make|open|build|init|configure|setup|new)(?![a-z])|^[A-Z]/

/** What the members belong to that a class or a maker is given: the variable that it is kept in, or the class. */
function groupOf(source: TreeText, list: TreeNode): string | undefined {
  const callee = calleeOf(source, list) ?? ''
  if (!MAKERS.test(callee)) return undefined
  for (let child = list.parent; child?.parent != null; child = child.parent) {
    const { parent } = child
    if (!source.grammar.named.has(parent.type)) {
      if (isThrough(source.grammar, parent)) continue
      break
    }
    const holder = namedStep(source, child, parent)?.name
    if (holder !== undefined) return holder
  }
  return /^[A-Z]/.test(callee) ? callee : undefined
}

/** The last name of an expression: `c` of `a.b.c` and `a["c"]`. */
function lastName({ text, grammar }: TreeText, node: TreeNode): string | undefined {
  const raw = text.slice(Math.max(node.start, node.end - 120), node.end)
  if (grammar.texts.has(node.type)) return grammar.valueOf(raw)
  const called = raw.replace(/\((?:[^()]|\([^()]*\))*\)\s*$/, '')
  return /([A-Za-z_]\w*(?:-\w+)*)[^\w]*$/.exec(called)?.[1]
}

function functionName({ text }: TreeText, node: TreeNode): string | undefined {
  const head = text.slice(node.start, Math.min(node.end, node.start + 200))
  return /\b(?:def|function|func|fn|fun)\s+(?:\([^)]*\)\s*)?(?:self\.)?([A-Za-z_]\w*)/.exec(head)?.[1]
}
