/**
 * Tells patterns that can take exponentially long: those with which one text can be matched in two ways again and again, as
 * `(a+)+` and `(a|a)*` can. A regular expression that runs can't be stopped, so it has to be known before.
 *
 * The pattern is taken apart into the places of its characters and what may follow each (the construction of Glushkov). It is
 * explosive where some place can be reached from itself along two different ways that read the same text.
 *
 * @param source the source of a regular expression; parts that are not understood count as any character
 * @example
 * ```ts
 * isExplosive('^(a+)+$')         // true
 * isExplosive('^([a-z]+-)*[a-z]+$') // false
 * ```
 */
export function isExplosive(source: string): boolean {
  // Without a repeated group nothing can repeat in two ways.
  if (!/\)(?:[*+]|\{\d+,)/.test(source)) return false
  const places = new Places()
  try {
    new Reader(source, places).alternatives()
  } catch {
    return false
  }
  return places.twice || places.areAmbiguous()
}

/** Characters as ranges of code points. */
type Characters = readonly (readonly [from: number, to: number])[]

const ANY: Characters = [[0, 0x10ffff]]
const DIGITS: Characters = [[48, 57]]
const WORD: Characters = [
  [48, 57],
  [65, 90],
  [95, 95],
  [97, 122],
]
const BLANK: Characters = [
  [9, 13],
  [32, 32],
  [160, 160],
  [0x2000, 0x200a],
  [0x2028, 0x2029],
  [0xfeff, 0xfeff],
]

/** A piece of the pattern: where it can begin and end, and whether it can match nothing. */
interface Piece {
  readonly first: readonly number[]
  readonly last: readonly number[]
  readonly empty: boolean
}

const NOTHING: Piece = { first: [], last: [], empty: true }

/** More places than this are not looked at: the pattern is taken for harmless. */
const MOST = 120

class Places {
  readonly characters: Characters[] = []
  readonly follows: Set<number>[] = []
  /** True where one place follows another for two reasons, both of which repeat. */
  twice = false

  add(characters: Characters): Piece {
    if (this.characters.length >= MOST) throw new RangeError('too many places')
    this.characters.push(characters)
    this.follows.push(new Set())
    const place = this.characters.length - 1
    return { first: [place], last: [place], empty: false }
  }

  join(before: Piece, after: Piece): Piece {
    this.#link(before.last, after.first, false)
    return {
      first: before.empty ? [...before.first, ...after.first] : before.first,
      last: after.empty ? [...before.last, ...after.last] : after.last,
      empty: before.empty && after.empty,
    }
  }

  repeat(piece: Piece): Piece {
    this.#link(piece.last, piece.first, true)
    return piece
  }

  #link(from: readonly number[], to: readonly number[], again: boolean): void {
    for (const place of from) {
      for (const next of to) {
        if (again && this.follows[place]!.has(next)) this.twice = true
        this.follows[place]!.add(next)
      }
    }
  }

  /** Goes along two ways at once, as long as they can read the same characters. */
  areAmbiguous(): boolean {
    const count = this.characters.length
    const pairs = new Map<number, number[]>()
    const next = (pair: number): number[] => {
      let found = pairs.get(pair)
      if (found !== undefined) return found
      found = []
      for (const a of this.follows[Math.floor(pair / count)]!) {
        for (const b of this.follows[pair % count]!) {
          if (overlap(this.characters[a]!, this.characters[b]!)) found.push(a * count + b)
        }
      }
      pairs.set(pair, found)
      return found
    }
    for (let place = 0; place < count; place++) {
      const start = place * count + place
      for (const apart of reach(start, next)) {
        if (Math.floor(apart / count) !== apart % count && reach(apart, next).has(start)) return true
      }
    }
    return false
  }
}

function reach(start: number, next: (pair: number) => readonly number[]): Set<number> {
  const found = new Set<number>()
  const open = [start]
  for (let pair = open.pop(); pair !== undefined; pair = open.pop()) {
    for (const each of next(pair)) {
      if (found.has(each)) continue
      found.add(each)
      open.push(each)
    }
  }
  return found
}

function overlap(a: Characters, b: Characters): boolean {
  return a.some(([from, to]) => b.some(([other, end]) => from <= end && other <= to))
}

/** Reads the grammar of ECMA-262, 22.2.1, as far as it matters here. */
class Reader {
  readonly source: string
  readonly places: Places
  #at = 0

  constructor(source: string, places: Places) {
    this.source = source
    this.places = places
  }

  alternatives(): Piece {
    let all = this.#sequence()
    while (this.source[this.#at] === '|') {
      this.#at++
      const other = this.#sequence()
      all = {
        first: [...all.first, ...other.first],
        last: [...all.last, ...other.last],
        empty: all.empty || other.empty,
      }
    }
    return all
  }

  #sequence(): Piece {
    let all = NOTHING
    while (this.#at < this.source.length && this.source[this.#at] !== '|' && this.source[this.#at] !== ')') {
      all = this.places.join(all, this.#repeated())
    }
    return all
  }

  #repeated(): Piece {
    const start = this.#at
    const piece = this.#atom()
    const [whole = '', least = '', comma, most = ''] =
      /^(?:[*+?]|\{(\d+)(,?)(\d*)\})\??/.exec(this.source.slice(this.#at)) ?? []
    const end = this.#at + whole.length
    let all = piece
    if (whole[0] === '*' || whole[0] === '+') all = this.places.repeat(piece)
    else if (whole[0] === '{') {
      const bounded = comma === '' || most !== ''
      const copies = Number(bounded && comma !== '' ? most : least)
      // A few times is written out; many times is as good as any number of times.
      if (!bounded || copies > 4) all = this.places.repeat(piece)
      else
        for (let copy = 1; copy < copies; copy++)
          all = this.places.join(all, { ...this.#again(start), empty: copy >= Number(least) })
    }
    this.#at = end
    return whole[0] === '*' || whole[0] === '?' || least === '0' ? { ...all, empty: true } : all
  }

  #again(start: number): Piece {
    this.#at = start
    return this.#atom()
  }

  #atom(): Piece {
    const character = this.source[this.#at]!
    if (character === '(') return this.#group()
    if (character === '[') return this.places.add(this.#class())
    if (character === '^' || character === '$') {
      this.#at++
      return NOTHING
    }
    if (character === '\\') {
      const next = this.source[this.#at + 1]
      if (next === 'b' || next === 'B') {
        this.#at += 2
        return NOTHING
      }
      return this.places.add(this.#escape())
    }
    if (character === '.') {
      this.#at++
      return this.places.add(ANY)
    }
    return this.places.add(this.#character())
  }

  #group(): Piece {
    const [opening] = /^\((?:\?(?::|<?[=!]|<\w+>))?/.exec(this.source.slice(this.#at))!
    this.#at += opening.length
    const inner = this.alternatives()
    this.#at++
    // What only looks ahead or back reads nothing.
    return /[=!]$/.test(opening) ? NOTHING : inner
  }

  #class(): Characters {
    this.#at++
    const negated = this.source[this.#at] === '^'
    if (negated) this.#at++
    const found: (readonly [number, number])[] = []
    while (this.#at < this.source.length && this.source[this.#at] !== ']') {
      const from = this.source[this.#at] === '\\' ? this.#escape() : this.#character()
      const isRange = this.source[this.#at] === '-' && this.source[this.#at + 1] !== ']' && from.length === 1
      if (!isRange) found.push(...from)
      else {
        this.#at++
        const to = this.source[this.#at] === '\\' ? this.#escape() : this.#character()
        found.push([from[0]![0], to[0]![1]])
      }
    }
    this.#at++
    return negated ? inverse(found) : found
  }

  #character(): Characters {
    const code = this.source.codePointAt(this.#at)!
    this.#at += code > 0xffff ? 2 : 1
    return [[code, code]]
  }

  #escape(): Characters {
    const [whole, hex] = /^\\(?:x([\da-f]{2})|u\{?([\da-f]{1,6})\}?|[pP]\{[^}]*\}|k<\w+>|c[a-z]|[\s\S])/iu.exec(
      this.source.slice(this.#at),
    ) ?? ['\\']
    this.#at += whole.length
    const name = whole[1] ?? ''
    const code = hex ?? /^\\u\{?([\da-f]+)/i.exec(whole)?.[1]
    if (code !== undefined) return [[Number.parseInt(code, 16), Number.parseInt(code, 16)]]
    if (/[pPk1-9]/.test(name)) return ANY
    const sets: Record<string, Characters> = {
      d: DIGITS,
      D: inverse(DIGITS),
      w: WORD,
      W: inverse(WORD),
      s: BLANK,
      S: inverse(BLANK),
      n: [[10, 10]],
      r: [[13, 13]],
      t: [[9, 9]],
      v: [[11, 11]],
      f: [[12, 12]],
      0: [[0, 0]],
    }
    return sets[name] ?? [[name.codePointAt(0) ?? 0, name.codePointAt(0) ?? 0]]
  }
}

function inverse(characters: Characters): Characters {
  const found: (readonly [number, number])[] = []
  let at = 0
  for (const [from, to] of [...characters].sort(([a], [b]) => a - b)) {
    if (from > at) found.push([at, from - 1])
    at = Math.max(at, to + 1)
  }
  if (at <= 0x10ffff) found.push([at, 0x10ffff])
  return found
}
