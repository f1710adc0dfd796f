import { isTellingName } from '@mappa/core/credentials/words'
import { namedStep } from './named-step.ts'
import { getCallee, isConstant, readNamerText, takesNameArgument } from './names.ts'
import type { TreeNode } from './node.ts'
import { type Place, type Step, type TreeText, written } from './step.ts'
import { isTransparentNode } from './through.ts'

/** Functions that give back what they are given, so that what is further up counts. */
const WRAPPERS =
  /^(?:str|int|float|bytes|bytearray|bool|String|Integer|parse|Parse|from|of|quote|unquote|join|encode|trim|freeze|byte|Some|Ok|format|Sprintf|array|list|dict|tuple|set|asList|listOf|arrayOf|mapOf|new|ServerAddress|Path|to|pair|Field|option|valueOf|toList|http_build_query|GetBytes|getBytes|to_owned|to_string|into|as_bytes|b64encode|b64decode|encode_utf8)$/
/** Functions whose argument stands in for what they are called on. */
const FALLBACKS = /^(?:unwrap_or(?:_else)?|getOrElse|orElse)$/

/**
 * What a call says of one of its arguments.
 *
 * @param named what the name of the argument says
 * @param isInner true where something below has said something already
 */
export function callStep(place: Place, named: Step | null, isInner: boolean): Step {
  const { child, parent: list } = place
  const callee = getCallee(place, list)
  const variable = findFallbackVariable(place, callee)
  if (variable !== undefined) return { name: variable, variable, callee, last: true }
  if (named !== null) return { name: flagName(place, named.name), callee, last: true }
  const args = listArguments(place)
  const before = args[args.indexOf(child) - 1]
  const name = isInner ? undefined : findName(place, callee, bare(before))
  const isWrapper = WRAPPERS.test(callee ?? '') && !isFlag(place, list)
  return {
    name,
    ...(isWrapper ? {} : { callee, argument: args.indexOf(child) }),
    last: name !== undefined || !isWrapper,
    isNamed: name !== undefined,
  }
}

/** The name that the argument before gives to a value. */
function findName(source: TreeText & Place, callee: string | undefined, before: TreeNode | undefined) {
  const name = readNamerText(source, before)
  const isTold = takesNameArgument(callee) || isFlag(source, source.parent) || isConstant(source, before)
  return isTold && isTellingName(name) ? name.replace(/^-+/, '') : undefined
}

function listArguments(place: Place): readonly TreeNode[] {
  return place.parent.children.filter((each) => !/^[(),]$/.test(written(place, each)))
}

/** What a member of a list holds, where that is one thing. */
function bare(node: TreeNode | undefined): TreeNode | undefined {
  return node?.type === 'Member' && node.children.length === 1 ? node.children[0] : node
}

/** The variable that an argument stands in for: `DOME_KEY` of `os.environ.get("DOME_KEY", "...")`. */
function findFallbackVariable(place: Place, callee: string | undefined): string | undefined {
  const { child, parent: list, text, grammar } = place
  const call = list.parent ?? list
  if (FALLBACKS.test(callee ?? '')) return grammar.readName(text.slice(call.start, list.start))
  const args = listArguments(place)
  const first = bare(args[0])
  if (first === undefined || args.indexOf(child) < 1 || !grammar.texts.has(first.type)) return undefined
  const name = grammar.valueOf(written(place, first))
  const isRead = /^[A-Z][A-Z0-9_]+$/.test(name) && grammar.readName(text.slice(call.start, list.end)) === name
  return isRead ? name : undefined
}

/** The name of an argument; that of a default is the one of its flag: `add_argument("-p", "--port", default=4100)`. */
function flagName({ text, parent: list }: Place, name: string | undefined): string | undefined {
  if (name !== 'default') return name
  const head = text.slice(list.start, Math.min(list.end, list.start + 80))
  const flag = /^\(\s*(?:["']-\w["'],\s*)?["']-{1,2}([A-Za-z][\w-]*)["']/.exec(head)?.[1]
  return flag?.replaceAll('-', '_') ?? name
}

/** True for what declares a flag of the command line: `flag.String("addr", ":4100", "...")`. */
function isFlag({ text }: TreeText, list: TreeNode): boolean {
  return /\bflags?\.\w+$/i.test(text.slice(Math.max(0, list.start - 40), list.start).trimEnd())
}

/** What is said by a call without brackets: `set :port, 4100`. */
export function commandStep(place: Place, named: Step | null, isInner: boolean): Step | null {
  const { child, parent } = place
  const own = parent.children.slice(0, child.index)
  const [first, second] = isKeyword(written(place, own[0])) ? own.slice(1) : own
  const isGiven = own.some((each) => /^(?:=|\|\|=|:=)$/.test(written(place, each)))
  if (first?.type !== 'Word' || isGiven || second?.type === 'Operator' || second?.start === first.end) return null
  const callee = written(place, first).split(/\.|::/).at(-1)
  if (named !== null) return { ...named, callee, last: true }
  const isSecond = written(place, own.at(-1)) === ',' && takesNameArgument(callee) && !isInner
  const name = isSecond ? readNamerText(place, own.at(-2)) : ''
  return { name: isTellingName(name) ? name : undefined, callee, last: true }
}

const isKeyword = (word: string) => /^(?:return|raise|puts|if|unless|when|and|or|not)$/.test(word)

/** Classes and functions that make what a program then works with. */
const MAKERS = /^(?:create|connect|make|open|build|init|configure|setup|new)(?![a-z])|^[A-Z]/

/** What the members belong to that a class or a maker is given: the variable that it is kept in, or the class. */
export function getGroup(source: TreeText, list: TreeNode): string | undefined {
  const callee = getCallee(source, list) ?? ''
  if (!MAKERS.test(callee)) return undefined
  for (let child = list.parent; child?.parent != null; child = child.parent) {
    const { parent } = child
    const isNamed = source.grammar.named.has(parent.type)
    if (!isNamed && !isTransparentNode(source.grammar, parent)) break
    const step = isNamed ? namedStep({ ...source, child, parent }) : null
    if (step !== null && step !== 'stop' && step.name !== undefined) return step.name
  }
  return /^[A-Z]/.test(callee) ? callee : undefined
}
