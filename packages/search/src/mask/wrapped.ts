/** Digits, or pairs of them with something between. */
const WRAPPABLE = /^(?:[\w+/=-]{16,}|[0-9a-fA-F]{2}(?:[ :.-][0-9a-fA-F]{2}){7,})$/
const [TAB, LINE_FEED, RETURN, BLANK, BACKSLASH, SLASH] = [9, 10, 13, 32, 92, 47]
/** What a line may begin with: signs of comments and of quotations. */
const SIGNS: ReadonlySet<number> = new Set([...'#>*|'].map((each) => each.charCodeAt(0)))
const [LETTER_N, LETTER_R] = [...'nr'].map((each) => each.charCodeAt(0)) as [number, number]

/** True for a text in which lines may end where programs print it: long digits, as in base64, of either kind. */
export function isWrappable(text: string): boolean {
  return WRAPPABLE.test(text)
}

/**
 * Where a text ends that begins at a place, with ends of lines and the margins behind them anywhere in it.
 *
 * @returns `open` where the bytes end before it does; `null` where it does not stand there
 */
export function findWrappedEnd(all: Buffer, start: number, bytes: Buffer): number | 'open' | null {
  let at = start
  for (const byte of bytes) {
    if (at < all.length && all[at] === byte) {
      at++
      continue
    }
    const next = skipLineEnd(all, at)
    if (next === 'open') return 'open'
    if (next === at) return null
    at = next
    // The blank between two pairs may have become the end of a line.
    if (byte === BLANK) continue
    if (at === all.length) return 'open'
    if (all[at] !== byte) return null
    at++
  }
  return at
}

/** Where some bytes begin that end at a place, with at most one end of a line and its margin in or behind them; `null` where they are not there. */
export function findWrappedStart(all: Buffer, end: number, bytes: Buffer): number | null {
  let at = end
  let isWrapped = false
  for (let index = bytes.length - 1; index >= 0; index--) {
    if (all[at - 1] !== bytes[index] && !isWrapped) {
      const before = findEarlierLineEnd(all, at)
      isWrapped = before < at
      at = before
    }
    if (all[at - 1] !== bytes[index]) return null
    at--
  }
  return at
}

/** Where the end of a line begins whose margin ends at a place; the same place where there is none. */
function findEarlierLineEnd(all: Buffer, from: number): number {
  const text = all.toString('latin1', Math.max(0, from - FARTHEST), from)
  return from - (LINE_END_BEFORE.exec(text)?.[0].length ?? 0)
}

/** The end of a line with its margin, at the end of a text. */
const LINE_END_BEFORE = /[ \t]*(?:\r?\n|(?:\\r)?\\n)[ \t]*(?:[#>*|]|\/\/)?[ \t]*$/
/** Margins are no wider, in bytes. */
const FARTHEST = 120

/** Where the end of a line begins with which some bytes end; their length where they do not. */
export function findLastLineEnd(all: Buffer): number {
  return findEarlierLineEnd(all, all.length)
}

/** The place behind the end of a line and a margin; the same place where there is none; `open` where that is not known yet. */
function skipLineEnd(all: Buffer, from: number): number | 'open' {
  let at = skipBlanks(all, from)
  if (at === all.length) return 'open'
  if (all[at] === BACKSLASH && at + 3 >= all.length) return 'open'
  const escaped = skipEscapedLineEnd(all, at)
  if (escaped !== at) return escaped
  if (all[at] === RETURN) at++
  if (at === all.length) return 'open'
  if (all[at] !== LINE_FEED) return from
  at = skipBlanks(all, at + 1)
  if (at < all.length && SIGNS.has(all[at]!)) at++
  else if (all[at] === SLASH && all[at + 1] === SLASH) at += 2
  return skipBlanks(all, at)
}

/** As JSON has it: `\\n`, `\\r\\n`. */
function skipEscapedLineEnd(all: Buffer, from: number): number {
  let at = from
  if (all[at] === BACKSLASH && all[at + 1] === LETTER_R) at += 2
  return all[at] === BACKSLASH && all[at + 1] === LETTER_N ? at + 2 : from
}

function skipBlanks(all: Buffer, from: number): number {
  let at = from
  while (at - from < FARTHEST && (all[at] === BLANK || all[at] === TAB)) at++
  return at
}
