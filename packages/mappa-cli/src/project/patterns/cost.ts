import { type Automaton, BEGIN, END, FIRST_CHARACTER } from './automaton.ts'
import { Walk } from './walk.ts'

/** A text on which an expression takes long, as symbols: what comes first, and what is repeated. */
interface Attack {
  readonly prefix: readonly number[]
  readonly pump: readonly number[]
}

/** What was proved about an expression. */
export interface Cost {
  /** How many steps a backtracking engine takes at least on the worst text that was found. */
  readonly steps: number
  /** The beginning of that text. */
  readonly text: string
}

/** So many symbols are tried in pairs. */
const MAX_SYMBOLS = 14
/** So many cycles are tried. */
const MAX_CYCLES = 150
/** So many texts are tried on expressions with conditions, which have to be checked position by position. */
const MAX_TRIALS = 40
/** What a condition looks for must take no more steps than this to be tried at all. */
const MAX_CONDITION_STEPS = 1_000_000
/** So long a text shows how steps grow. */
const SAMPLE = 100
/** More steps are not counted. */
const ENOUGH = 1e15

/**
 * The most steps that an expression is proved to take on a text of a length. Counted, not timed: on a text that does not match, a
 * backtracking engine goes along every path, and the paths can be counted without going along them.
 */
export function measureCost(automaton: Automaton, length: number): Cost {
  let worst: Cost = { steps: 0, text: '' }
  const conditions = [...automaton.conditions.values()]
  if (automaton.empty || conditions.some(({ body }) => body !== undefined && !isQuick(body, length))) return worst
  const symbols = telling(automaton)
  // Also a character that no place reads.
  const endings = [...symbols, ...listUnread(automaton)]
  let trials = 0
  for (const attack of generateAttacks(automaton, symbols)) {
    const symbols = getText(attack, length)
    if (length > SAMPLE && isLinear(automaton, attack)) continue
    let steps = 0
    if (conditions.length === 0) steps = countSteps(automaton, symbols, endings)
    else if (trials < MAX_TRIALS && mostSteps(automaton, symbols) > worst.steps) {
      trials++
      steps = stepsUnderConditions(automaton, symbols, endings)
    }
    if (steps > worst.steps) worst = { steps, text: textOfSymbols(automaton, symbols) }
  }
  return worst
}

/** True where twice the text takes hardly more than twice the steps, and few of them: no length makes that slow. */
function isLinear(automaton: Automaton, attack: Attack): boolean {
  const whole = mostSteps(automaton, getText(attack, SAMPLE))
  return whole <= 20 * SAMPLE && whole <= 2.2 * mostSteps(automaton, getText(attack, SAMPLE / 2)) + 10
}

function isQuick(body: Automaton | null, length: number): boolean {
  return body !== null && measureCost(body, length).steps <= MAX_CONDITION_STEPS
}

function getText({ prefix, pump }: Attack, length: number): number[] {
  const symbols = prefix.slice(0, length)
  while (symbols.length < length) symbols.push(...pump)
  return symbols.slice(0, Math.max(1, length))
}

function textOfSymbols({ alphabet }: Automaton, symbols: readonly number[]): string {
  return symbols.map((each) => alphabet[each - FIRST_CHARACTER]).join('')
}

/** The number of all paths on a text, up to an end with which it does not match; 0 where there is none. */
function countSteps(automaton: Automaton, symbols: readonly number[], endings: readonly number[]): number {
  const walk = new Walk(automaton, () => true)
  for (const symbol of [BEGIN, ...symbols]) {
    walk.read(symbol, true)
    if (walk.matches(false)) return 0
    if (walk.steps > ENOUGH || walk.isOver) break
  }
  return fails(walk, endings, 2) ? walk.steps : 0
}

/**
 * True where some end of at most so many characters keeps the text from matching from any of its characters on. What begins within
 * that end is tried last, and may match: `a*$` does so at the very end of every text.
 */
function fails(walk: Walk, endings: readonly number[], deeper: number): boolean {
  if (walk.matches(false)) return false
  if (!walk.fork().read(END, false).matches(false)) return true
  return deeper > 0 && endings.some((symbol) => fails(walk.fork().read(symbol, false), endings, deeper - 1))
}

/** The paths there are if all conditions hold and nothing matches: no text of these symbols takes more. */
function mostSteps(automaton: Automaton, symbols: readonly number[]): number {
  const walk = new Walk(automaton, () => true)
  for (const symbol of [BEGIN, ...symbols]) if (walk.read(symbol, true).steps > ENOUGH || walk.isOver) break
  return walk.steps
}

/** The same as {@link countSteps} where it depends on the text whether conditions hold: each end is tried from the beginning. */
function stepsUnderConditions(automaton: Automaton, symbols: readonly number[], endings: readonly number[]): number {
  for (const end of [[], ...endings.map((each) => [each])]) {
    const walk = new Walk(automaton, matchConditions(automaton, textOfSymbols(automaton, [...symbols, ...end])))
    const all = [BEGIN, ...symbols, ...end, END]
    const matched = all.some((symbol, index) => {
      const begins = index <= symbols.length
      // What matches without a character does so before any is read.
      return walk.matches(begins && index > 0) || walk.read(symbol, begins).matches(false)
    })
    if (!matched) return Math.min(walk.steps, ENOUGH)
  }
  return 0
}

/** Asks the engine whether conditions hold on a text. Each costs little, and is asked once for each position. */
function matchConditions({ conditions }: Automaton, text: string): (place: number, position: number) => boolean {
  const known = new Map<number, (boolean | undefined)[]>()
  return (place, position) => {
    let answers = known.get(place)
    if (answers === undefined) known.set(place, (answers = []))
    let answer = answers[position]
    if (answer === undefined) {
      const { expression } = conditions.get(place)!
      expression.lastIndex = position
      answers[position] = answer = expression.test(text)
    }
    return answer
  }
}

/** Texts to try: each character again and again, pairs of them, and every way round a loop of the expression. */
function* generateAttacks(automaton: Automaton, symbols: readonly number[]): Generator<Attack> {
  for (const a of symbols) yield { prefix: [], pump: [a] }
  for (const a of symbols) for (const b of symbols) if (a !== b) yield { prefix: [], pump: [a, b] }
  const seen = new Set<string>()
  for (let place = 0; place < automaton.reads.length && seen.size < MAX_CYCLES; place++) {
    const cycle = shortest(automaton, automaton.follow[place]!, place)
    if (cycle === null) continue
    const prefix = shortest(automaton, automaton.first, place) ?? []
    const word = (places: readonly number[]) =>
      places.map((each) => favourite(automaton, each)).filter((each) => each > END)
    const attack = { prefix: word(prefix), pump: word(cycle) }
    const key = `${attack.prefix.join()} ${attack.pump.join()}`
    if (attack.pump.length === 0 || seen.has(key)) continue
    seen.add(key)
    yield attack
  }
}

/** One symbol of each sort that the expression tells apart, those that most places read first. */
function telling({ reads }: Automaton): number[] {
  const bySort = new Map<string, { symbol: number; count: number }>()
  for (let symbol = FIRST_CHARACTER; symbol < (reads[0]?.length ?? 0); symbol++) {
    const sort = reads.map((each) => each[symbol]).join('')
    const count = reads.reduce((sum, each) => sum + each[symbol]!, 0)
    if (count > 0 && !bySort.has(sort)) bySort.set(sort, { symbol, count })
  }
  return [...bySort.values()]
    .sort((a, b) => b.count - a.count)
    .slice(0, MAX_SYMBOLS)
    .map(({ symbol }) => symbol)
}

/** A character that no place reads, if there is one. */
function listUnread({ reads }: Automaton): number[] {
  for (let symbol = FIRST_CHARACTER; symbol < (reads[0]?.length ?? 0); symbol++) {
    if (reads.every((each) => each[symbol] === 0)) return [symbol]
  }
  return []
}

/** The symbol of a place that most places read. */
function favourite({ reads }: Automaton, place: number): number {
  let best = END
  let most = 0
  for (let symbol = FIRST_CHARACTER; symbol < reads[place]!.length; symbol++) {
    if (reads[place]![symbol] === 0) continue
    const count = reads.reduce((sum, each) => sum + each[symbol]!, 0)
    if (count > most) [best, most] = [symbol, count]
  }
  return best
}

/** The places of a shortest way to a place, itself included; `null` where there is none. */
function shortest({ follow }: Automaton, from: readonly number[], to: number): number[] | null {
  const before = new Map<number, number | null>(from.map((each) => [each, null]))
  for (const place of before.keys()) {
    if (place === to) {
      const way: number[] = []
      for (let at: number | null = to; at !== null; at = before.get(at)!) way.unshift(at)
      return way
    }
    for (const next of follow[place]!) if (!before.has(next)) before.set(next, place)
  }
  return null
}
