import { type Condition, findCondition, findLeadingCondition } from './conditions.ts'
import type { SourceLiteral, StageChoice } from './source.ts'

/** How a language writes a value that depends on a condition. */
export interface ConditionalStyle {
  /** True for `prod ? 'a' : 'b'`. */
  readonly ternary?: boolean
  /** True for `'a' if prod else 'b'`. */
  readonly trailing?: boolean
  /** True where `if (prod) 'a' else 'b'` and `if prod { 'a' } else { 'b' }` are values. */
  readonly blocks?: boolean
}

/** What a conditional is made of, as far as it was read. */
interface Chain {
  readonly conditions: readonly Condition[]
  /** Where it begins. */
  readonly start: number
  /** What has to stand behind its last value, apart from blanks. */
  readonly closing: string
}

/**
 * Marks the literals of conditionals that choose between fixed values by the stage, so that they can become one setting with a
 * value for each stage. What is not plainly such a conditional stays as it is.
 *
 * @param literals of one file
 * @example
 * // the two texts of `const url = isProd ? 'https://a' : 'https://b'` get a choice: production, and any other stage
 */
export function withChoices<Literal extends SourceLiteral>(
  text: string,
  literals: readonly Literal[],
  style: ConditionalStyle,
): readonly Literal[] {
  if (!literals.some(({ end }) => isBeforeElse(text, end))) return literals
  const sorted = [...literals].sort((a, b) => a.start - b.start)
  const choices = new Map<Literal, StageChoice>()
  for (let at = 0; at < sorted.length - 1; ) at += markChain(text, sorted, at, style, choices)
  return literals.map((each) => {
    const choice = choices.get(each)
    if (choice === undefined) return each
    // All of them together stand in for a variable that stands right before them.
    const isFallback = /(?:\|\||\?\?|\?:|\bor)\s*\(*\s*$/.test(text.slice(Math.max(0, choice.start - 20), choice.start))
    const variable = isFallback ? (each.variableAround ?? each.variable) : null
    return { ...each, choice, variable }
  })
}

/** True where what follows a value may be the other half of a conditional. */
const isBeforeElse = (text: string, end: number) => /^\s*(?::|if\b|\}?\s*else\b)/.test(text.slice(end, end + 80))

/** The texts that a condition may hold: `os.environ.get("STAGE", "development") == "production"` holds three. */
const MOST_ASKED = 3

/** Marks the conditional that begins with a literal, if one does, and gives how many literals it holds; 1 if none does. */
function markChain<Literal extends SourceLiteral>(
  text: string,
  sorted: readonly Literal[],
  at: number,
  style: ConditionalStyle,
  choices: Map<Literal, StageChoice>,
): number {
  const first = sorted[at]!
  if (first.form === 'template part') return 1
  const values = [first]
  let chain: Chain | null = null
  let last = at
  for (let next = at + 1; next <= last + MOST_ASKED + 1 && next < sorted.length; next++) {
    const longer = continueChain(text, first, sorted[last]!, sorted[next]!, chain, style)
    if (longer === null) continue
    values.push(sorted[next]!)
    chain = longer
    last = next
  }
  if (chain === null || chain.conditions.length !== values.length - 1) return 1
  const end = findEnd(text, values.at(-1)!.end, chain.closing)
  const stages = listStages(chain.conditions)
  if (end === null || stages === null) return 1
  for (const [index, each] of values.entries())
    choices.set(each, { stage: stages[index]!, start: chain.start, end, count: values.length })
  return last - at + 1
}

/** The chain with one more value; `null` where the next literal is none of it. */
function continueChain(
  text: string,
  first: SourceLiteral,
  before: SourceLiteral,
  next: SourceLiteral,
  chain: Chain | null,
  style: ConditionalStyle,
): Chain | null {
  if (next.form !== first.form || next.start < before.end || next.start - before.end > 200) return null
  const between = text.slice(before.end, next.start)
  for (const way of WAYS) {
    const longer = style[way.name] === true ? way.read(text, first, between, chain) : null
    if (longer !== null) return longer
  }
  return null
}

interface Way {
  readonly name: keyof ConditionalStyle
  /** Reads what stands between two values, and before the first where nothing is known of the chain yet. */
  readonly read: (text: string, first: SourceLiteral, between: string, chain: Chain | null) => Chain | null
}

const ternary: Way = {
  name: 'ternary',
  read(text, first, between, chain) {
    const [, condition] = /^\s*:(?:\s*([^:;]+?)\s*\?)?\s*$/s.exec(between) ?? [null, null]
    if (condition === null) return null
    const begun = chain ?? findChainStart(text, first.start, /\?\s*$/)
    return begun === null ? null : extendChain(begun, condition)
  },
}

const trailing: Way = {
  name: 'trailing',
  read(text, first, between, chain) {
    const [, condition] = /^\s+if\s+(.+?)\s+else\s+$/s.exec(between) ?? []
    if (condition === undefined) return null
    const before = text.slice(Math.max(0, first.start - 40), first.start)
    if (chain === null && !/(?:^|[=(,[{:;\n]|\b(?:return|yield))\s*$/.test(before)) return null
    return extendChain(chain ?? { conditions: [], start: first.start, closing: '' }, condition)
  },
}

const blocks: Way = {
  name: 'blocks',
  read(text, first, between, chain) {
    const [, closes, condition, opens] = /^\s*(\}?)\s*else(?:\s+if\s*(.+?))?\s*(\{?)\s*$/s.exec(between) ?? []
    if (closes === undefined) return null
    const begun = chain ?? findChainStart(text, first.start, /\{?\s*$/, /\bif$/)
    const braces = begun?.closing === '}'
    return begun === null || braces !== (closes === '}') || braces !== (opens === '{')
      ? null
      : extendChain(begun, condition)
  },
}

const WAYS: readonly Way[] = [ternary, trailing, blocks]

/** A chain with its first condition, which stands before the first value; `null` where none does. */
function findChainStart(text: string, start: number, sign: RegExp, keyword?: RegExp): Chain | null {
  const found = findLeadingCondition(text.slice(Math.max(0, start - 300), start), sign, keyword)
  if (found === null) return null
  const closing = found.sign.startsWith('{') ? '}' : ''
  return { conditions: [found.condition], start: start - found.length, closing }
}

function extendChain(chain: Chain, condition: string | undefined): Chain | null {
  if (condition === undefined) return chain
  const read = findCondition(condition)
  return read === null ? null : { ...chain, conditions: [...chain.conditions, read] }
}

/** Where the conditional ends; `null` where its last value is a part of something longer. */
function findEnd(text: string, last: number, closing: string): number | null {
  const rest = text.slice(last, last + 300)
  const closed = closing === '' ? 0 : rest.search(/\S/) + 1
  if (closing !== '' && rest[closed - 1] !== closing) return null
  const after = rest.slice(closed)
  const isEnd = /^[ \t]*(?:[;,)\]}]|\/\/|\/\*|#|$)/.test(after) || /^[ \t]*\r?\n\s*(?![\s.+\-*%&|?<>=:])/.test(after)
  return isEnd ? last + closed : null
}

/** The stage of each value, `null` for the one that all other stages get; nothing where that can't be told. */
function listStages(conditions: readonly Condition[]): readonly (string | null)[] | null {
  const names = conditions.map(({ stage }) => stage)
  if (new Set(names).size !== names.length) return null
  if (conditions.every(({ holds }) => holds)) return [...names, null]
  // `stage !== 'production' ? a : b`: the other way round.
  return names.length === 1 ? [null, names[0]!] : null
}
