import { type Automaton, BEGIN, FIRST_CHARACTER } from './automaton.ts'

/** So many conditions can follow each other without a character between them; none does so twice, since engines don't repeat nothing. */
const MAX_CONDITIONS = 4
/** The conditions that a path went through since its last character. */
type Through = readonly number[]
const NONE: Through = []

/**
 * Goes along all paths through an automaton at once and counts them, symbol by symbol. On a text that does not match, a
 * backtracking engine goes along every one of them.
 */
export class Walk {
  /** How many paths have been begun or gone on, all in all. */
  steps = 0
  readonly #automaton: Automaton
  readonly #holds: (place: number, position: number) => boolean
  /** True where the expression begins with `^`. */
  readonly #beginsOnce: boolean
  #paths: ReadonlyMap<number, number> = new Map()
  /** Where in the text the next character stands; the beginning and the end are none. */
  #position = 0

  /**
   * @param holds whether what a place asks for holds at a position of the text
   */
  constructor(automaton: Automaton, holds: (place: number, position: number) => boolean) {
    this.#automaton = automaton
    this.#holds = holds
    const { first, reads } = automaton
    this.#beginsOnce = first.every((each) => reads[each]![BEGIN] === 1)
  }

  /** The same walk, so that each of two can go on in its own way. */
  fork(): Walk {
    const other = new Walk(this.#automaton, this.#holds)
    other.steps = this.steps
    other.#paths = this.#paths
    other.#position = this.#position
    return other
  }

  /**
   * Goes on by one symbol.
   *
   * @param begins true where a search may begin here
   */
  read(symbol: number, begins: boolean): this {
    const { follow, first } = this.#automaton
    const next = new Map<number, number>()
    for (const [place, count] of this.#paths) this.#enter(follow[place]!, count, symbol, next, NONE)
    if (begins) this.#enter(first, 1, symbol, next, NONE)
    for (const count of next.values()) this.steps += count
    this.#paths = next
    if (symbol >= FIRST_CHARACTER) this.#position++
    return this
  }

  /** True where no path is left and none can begin any more, so that nothing more will be counted. */
  get isOver(): boolean {
    return this.#paths.size === 0 && this.#position > 0 && this.#beginsOnce
  }

  #enter(places: readonly number[], count: number, symbol: number, next: Map<number, number>, through: Through): void {
    const { reads, follow, conditions } = this.#automaton
    for (const each of places) {
      if (reads[each]![symbol] === 1) next.set(each, (next.get(each) ?? 0) + count)
      else if (conditions.has(each) && this.#holdsNow(each, through))
        this.#enter(follow[each]!, count, symbol, next, [...through, each])
    }
  }

  /**
   * True where the expression has matched, so that the engine stops.
   *
   * @param begins true where a search may begin here
   */
  matches(begins: boolean): boolean {
    for (const place of this.#paths.keys()) if (this.#accepts(place, NONE)) return true
    return begins && this.#automaton.first.some((each) => this.#passes(each, NONE))
  }

  #accepts(place: number, through: Through): boolean {
    const { accepts, follow, conditions } = this.#automaton
    if (accepts[place] === 1) return true
    return conditions.size > 0 && follow[place]!.some((each) => this.#passes(each, through))
  }

  #passes(place: number, through: Through): boolean {
    if (!this.#automaton.conditions.has(place) || !this.#holdsNow(place, through)) return false
    return this.#accepts(place, [...through, place])
  }

  #holdsNow(place: number, through: Through): boolean {
    return through.length < MAX_CONDITIONS && !through.includes(place) && this.#holds(place, this.#position)
  }
}
