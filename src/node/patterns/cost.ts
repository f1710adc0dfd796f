import { type Automaton, BEGIN, END, FIRST_CHARACTER } from './automaton.ts'

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

/**
 * The most steps that an expression is proved to take on a text of a length. Counted, not timed: on a text that does not match, a
 * backtracking engine goes along every path, and the paths can be counted without going along them.
 */
export function costOf(automaton: Automaton, length: number): Cost {
  let worst: Cost = { steps: 0, text: '' }
  if (automaton.empty) return worst
  const symbols = telling(automaton)
  // Also a character that no place reads.
  const endings = [...symbols, ...unread(automaton)]
  for (const attack of attacksOn(automaton, symbols)) {
    const symbols = textOf(attack, length)
    const steps = countSteps(automaton, symbols, endings)
    if (steps > worst.steps)
      worst = { steps, text: symbols.map((each) => automaton.alphabet[each - FIRST_CHARACTER]).join('') }
  }
  return worst
}

function textOf({ prefix, pump }: Attack, length: number): number[] {
  const symbols = prefix.slice(0, length)
  while (symbols.length < length) symbols.push(...pump)
  return symbols.slice(0, Math.max(1, length))
}

/** The number of all paths on a text, up to an end with which it does not match; 0 where there is none. */
function countSteps(automaton: Automaton, symbols: readonly number[], endings: readonly number[]): number {
  const { reads, follow, first, accepts } = automaton
  let paths = new Map<number, number>()
  let steps = 0
  const all = [BEGIN, ...symbols]
  for (const symbol of all) {
    const next = after(paths, symbol)
    for (const [place, count] of next) {
      // It matches here, and the engine stops.
      if (accepts[place] === 1) return 0
      steps += count
    }
    if (steps > 1e15) break
    paths = next
  }
  return fails() ? steps : 0

  function after(before: ReadonlyMap<number, number>, symbol: number): Map<number, number> {
    const next = new Map<number, number>()
    for (const [place, count] of before) {
      for (const each of follow[place]!) {
        if (reads[each]![symbol] === 1) next.set(each, (next.get(each) ?? 0) + count)
      }
    }
    // A search begins anew at each character.
    for (const each of first) if (reads[each]![symbol] === 1) next.set(each, (next.get(each) ?? 0) + 1)
    return next
  }

  /** True where some end of at most two characters keeps the text from matching. */
  function fails(): boolean {
    const ends = (found: ReadonlyMap<number, number>, deeper: number): boolean => {
      if (matches(found)) return false
      if (!matches(after(found, END))) return true
      if (deeper === 0) return false
      return endings.some((symbol) => ends(after(found, symbol), deeper - 1))
    }
    return ends(paths, 2)
  }

  function matches(found: ReadonlyMap<number, number>): boolean {
    for (const place of found.keys()) if (accepts[place] === 1) return true
    return false
  }
}

/** Texts to try: each character again and again, pairs of them, and every way round a loop of the expression. */
function* attacksOn(automaton: Automaton, symbols: readonly number[]): Generator<Attack> {
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
function unread({ reads }: Automaton): number[] {
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
