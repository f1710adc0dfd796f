import type { AstNode, Quantifier, RootNode } from 'regjsparser'

/** What is parsed beyond the first edition of the language; patterns with anything newer are not checked. */
export const FEATURES = {
  lookbehind: true,
  namedGroups: true,
  unicodePropertyEscape: true,
  unicodeSet: true,
  modifiers: true,
} as const
type Features = typeof FEATURES
/** A part of an expression. */
export type Expression = RootNode<Features>

/** The symbols of a text: its beginning, its end, and characters. */
export const BEGIN = 0
export const END = 1
const EDGES: Readonly<Record<string, typeof BEGIN | typeof END>> = { start: BEGIN, end: END }
export const FIRST_CHARACTER = 2

/**
 * A regular expression as the places of its characters, and what may follow each (the construction of Glushkov). Where a place
 * can follow another in two ways it is listed twice: a backtracking engine tries both.
 */
export interface Automaton {
  /** For each place, true by symbol where it reads that symbol. */
  readonly reads: readonly Uint8Array[]
  readonly follow: readonly (readonly number[])[]
  readonly first: readonly number[]
  /** True for places at which the expression has matched. */
  readonly accepts: Uint8Array
  /** Places that read nothing and ask for something instead (`\b`, `(?=...)`); they stand among the others. */
  readonly conditions: ReadonlyMap<number, Condition>
  /** True for an expression that matches nothing at all, and so never fails. */
  readonly empty: boolean
  /** One character for each symbol from {@link FIRST_CHARACTER} on. */
  readonly alphabet: readonly string[]
}

/** What a place asks for that reads nothing. */
export interface Condition {
  /** Holds where this matches, at the very position. */
  readonly expression: RegExp
  /** The automaton of what it looks for, if it looks around; `null` for one that can't be made. */
  readonly body: Automaton | null | undefined
}

/** Larger ones are not checked: what can't be proved is not refused. */
const MAX_PLACES = 3000
const MAX_EDGES = 100_000

interface Piece {
  readonly first: readonly number[]
  readonly last: readonly number[]
  readonly empty: boolean
}

const NOTHING: Piece = { first: [], last: [], empty: true }

/**
 * Makes the automata of an expression: its own, and that of a lookahead that it begins with, which is looked for wherever the
 * expression is. A reference to a group reads what the group itself can read, or nothing: that is more than it reads in truth, so that
 * an engine has no more ways through the expression than through its automaton.
 *
 * @returns the automata, `null` in the place of one that is too large
 */
export function buildAutomata(pattern: Expression, flags: string): (Automaton | null)[] {
  const groups = listGroups(pattern)
  const alphabet = buildAlphabet(pattern)
  const elements = pattern.type === 'alternative' ? pattern.body : [pattern]
  const anchored = elements[0]?.type === 'anchor' && elements[0].kind === 'start' && !flags.includes('m')
  const leading = elements[anchored ? 1 : 0]
  const ahead = leading?.type === 'group' && AHEAD.has(leading.behavior) ? leading.body : null
  const whole = build([pattern], { alphabet, flags, groups })
  return ahead === null ? [whole] : [whole, build(ahead, { alphabet, flags, groups }, anchored)]
}

/** What all parts of an expression are built with. */
interface Building {
  readonly alphabet: readonly string[]
  readonly flags: string
  readonly groups: readonly Capture[]
}

/** A group that captures, in the order in which they open. */
interface Capture {
  readonly name: string | null
  readonly body: readonly Expression[]
}

function listGroups(node: AstNode<Features>): readonly Capture[] {
  const inner = 'body' in node ? (node.body as readonly AstNode<Features>[]).flatMap((each) => listGroups(each)) : []
  if (node.type !== 'group' || node.behavior !== 'normal') return inner
  return [{ name: node.name?.value ?? null, body: node.body }, ...inner]
}

/** True for an expression that refers to what a group of it has read. */
export function hasReference(node: AstNode<Features>): boolean {
  return node.type === 'reference' || ('body' in node && (node.body as readonly AstNode<Features>[]).some(hasReference))
}

const AHEAD: ReadonlySet<string> = new Set(['lookahead', 'negativeLookahead'])

function build(parts: readonly Expression[], building: Building, anchored = false): Automaton | null {
  try {
    return new Builder(building).build(parts, anchored)
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    return null
  }
}

class Builder {
  readonly #alphabet: readonly string[]
  readonly #flags: string
  readonly #groups: readonly Capture[]
  /** The groups that a reference is being read as: one within itself has read nothing. */
  readonly #open = new Set<Capture>()
  readonly #conditions = new Map<number, Condition>()
  readonly #reads: Uint8Array[] = []
  readonly #follow: number[][] = []
  readonly #known = new Map<string, Uint8Array>()
  #edges = 0

  constructor({ alphabet, flags, groups }: Building) {
    this.#alphabet = alphabet
    this.#flags = flags.replace(/[gy]/g, '')
    this.#groups = groups
  }

  build(parts: readonly Expression[], anchored: boolean): Automaton {
    const body = this.#sequence(parts)
    const { first, last, empty } = anchored ? this.#join(this.#edge(BEGIN), body) : body
    const accepts = new Uint8Array(this.#reads.length)
    for (const place of last) accepts[place] = 1
    const [reads, follow, conditions] = [this.#reads, this.#follow, this.#conditions]
    return { reads, follow, first, accepts, conditions, empty, alphabet: this.#alphabet }
  }

  #sequence(parts: readonly Expression[]): Piece {
    return parts.reduce((all, one) => this.#join(all, this.#piece(one)), NOTHING)
  }

  #piece(node: Expression): Piece {
    switch (node.type) {
      case 'alternative':
        return this.#sequence(node.body)
      case 'disjunction':
        return either(node.body.map((each) => this.#piece(each)))
      case 'quantifier':
        return this.#repeated(node)
      case 'group': {
        const looksAround = node.behavior !== 'normal' && node.behavior !== 'ignore'
        return looksAround ? this.#condition(node.raw, node.body) : this.#sequence(node.body)
      }
      case 'anchor': {
        const edge = EDGES[node.kind]
        return edge !== undefined && !this.#flags.includes('m') ? this.#edge(edge) : this.#condition(node.raw)
      }
      case 'reference':
        return this.#buildReference('name' in node && node.name != null ? node.name.value : Number(node.raw.slice(1)))
      default:
        return this.#place(this.#buildReads(node.raw))
    }
  }

  #buildReference(to: string | number): Piece {
    const group = this.#groups.find((each, at) => (typeof to === 'number' ? at + 1 === to : each.name === to))
    if (group === undefined || this.#open.has(group)) return NOTHING
    this.#open.add(group)
    const piece = this.#sequence(group.body)
    this.#open.delete(group)
    return { ...piece, empty: true }
  }

  #condition(raw: string, lookedFor?: readonly Expression[]): Piece {
    const piece = this.#place(new Uint8Array(FIRST_CHARACTER + this.#alphabet.length))
    const body =
      lookedFor === undefined
        ? undefined
        : build(lookedFor, { alphabet: this.#alphabet, flags: this.#flags, groups: this.#groups })
    this.#conditions.set(piece.first[0]!, { expression: new RegExp(raw, `${this.#flags}y`), body })
    return piece
  }

  #edge(symbol: typeof BEGIN | typeof END): Piece {
    const reads = new Uint8Array(FIRST_CHARACTER + this.#alphabet.length)
    reads[symbol] = 1
    return this.#place(reads)
  }

  /** The copies that must be there, one after the other; then those that may, each within the one before, or a loop. */
  #repeated({ body: [element], min, max = Number.POSITIVE_INFINITY }: Quantifier<Features>): Piece {
    let all = NOTHING
    for (let copy = 0; copy < min; copy++) all = this.#join(all, this.#piece(element))
    if (max === Number.POSITIVE_INFINITY) {
      const again = this.#piece(element)
      this.#link(again.last, again.first)
      return this.#join(all, { ...again, empty: true })
    }
    let rest = NOTHING
    for (let copy = min; copy < max; copy++) rest = { ...this.#join(this.#piece(element), rest), empty: true }
    return this.#join(all, rest)
  }

  #join(before: Piece, after: Piece): Piece {
    this.#link(before.last, after.first)
    return {
      first: before.empty ? [...before.first, ...after.first] : before.first,
      last: after.empty ? [...before.last, ...after.last] : after.last,
      empty: before.empty && after.empty,
    }
  }

  #link(from: readonly number[], to: readonly number[]): void {
    this.#edges += from.length * to.length
    if (this.#edges > MAX_EDGES) throw new RangeError('too many edges')
    for (const place of from) for (const next of to) this.#follow[place]!.push(next)
  }

  #place(reads: Uint8Array): Piece {
    if (this.#reads.length >= MAX_PLACES) throw new RangeError('too many places')
    const place = this.#reads.push(reads) - 1
    this.#follow.push([])
    return { first: [place], last: [place], empty: false }
  }

  /** Asks the engine itself which characters something reads, so that every flag counts as it does there. */
  #buildReads(raw: string): Uint8Array {
    const known = this.#known.get(raw)
    if (known !== undefined) return known
    const one = new RegExp(`^(?:${raw})$`, this.#flags.replace('m', ''))
    const reads = new Uint8Array(FIRST_CHARACTER + this.#alphabet.length)
    for (const [index, character] of this.#alphabet.entries())
      reads[FIRST_CHARACTER + index] = one.test(character) ? 1 : 0
    this.#known.set(raw, reads)
    return reads
  }
}

/** One of several pieces. */
function either(pieces: readonly Piece[]): Piece {
  return {
    first: pieces.flatMap((each) => each.first),
    last: pieces.flatMap((each) => each.last),
    empty: pieces.some((each) => each.empty),
  }
}

/** Characters that patterns usually tell apart, whatever stands in them. */
const USUAL = [...'aAzZ059_ \n\t\r-.=,;:/@!"\'$%#~é中', '\u2028']

/** The characters that an expression may treat in different ways: those it names, their neighbours, and usual ones. */
function buildAlphabet(pattern: Expression): string[] {
  const found = new Set(USUAL)
  const add = (code: number) => {
    for (const each of [code - 1, code, code + 1]) {
      if (each < 0 || each > 0xffff || (each >= 0xd800 && each <= 0xdfff)) continue
      const character = String.fromCharCode(each)
      for (const one of [character, character.toLowerCase(), character.toUpperCase()])
        if (one.length === 1) found.add(one)
    }
  }
  for (const code of findCharacters(pattern)) add(code)
  return [...found].slice(0, 400)
}

/** The code points that stand in a part of an expression. */
function* findCharacters(node: AstNode<Features>): Generator<number> {
  if (node.type === 'value') yield node.codePoint
  else if (node.type === 'characterClassRange') yield* [node.min.codePoint, node.max.codePoint]
  else if ('body' in node) for (const each of node.body as readonly AstNode<Features>[]) yield* findCharacters(each)
}
