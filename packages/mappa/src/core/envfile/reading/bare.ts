import {
  BACKSLASH,
  BACKTICK,
  CLOSE_BRACE,
  DOLLAR,
  DOUBLE,
  HASH,
  isLineEnd,
  NEWLINE,
  OPEN_BRACE,
  OPEN_PARENTHESIS,
  RETURN,
  SINGLE,
  SPACE,
  stopsBare,
  TAB,
} from './characters.ts'

/** A value without quotes: where it ends, and where what is special about it stands; -1 for what it lacks. */
export interface BareValue {
  /** Behind the last character of the value. */
  end: number
  /** Where reading stopped: a comment or the end of the line. */
  next: number
  spaces: number
  dollar: number
  backslash: number
  quote: number
  shell: number
  carriageReturn: number
}

/**
 * Measures a value without quotes: it ends with the line, or before blanks and `#`. Within `${...}` neither
 * blanks nor `#` mean anything.
 *
 * @param from where the value begins
 */
export function measureBare(text: string, from: number): BareValue {
  const found = {
    end: from,
    next: from,
    spaces: -1,
    dollar: -1,
    backslash: -1,
    quote: -1,
    shell: -1,
    carriageReturn: -1,
  }
  let at = from
  while (!stopsBare(text.charCodeAt(at)) && at < text.length) at++
  let end = at
  let depth = 0
  for (; at < text.length; at++) {
    const code = text.charCodeAt(at)
    if (stopsBare(code)) {
      if (code === NEWLINE || (code === RETURN && isLineEnd(text, at))) break
      if (code === SPACE || code === TAB) continue
      if (code === HASH && at > end && depth === 0) break
    }
    if (end < at && depth === 0 && found.spaces < 0) found.spaces = end
    if (stopsBare(code)) {
      const next = text.charCodeAt(at + 1)
      if (code === DOLLAR) {
        if (found.dollar < 0) found.dollar = at
        if (next === OPEN_BRACE) depth++
        // What follows belongs to the $.
        if (next === OPEN_BRACE || next === OPEN_PARENTHESIS) at++
      } else if (code === BACKSLASH && (next === DOLLAR || (next === CLOSE_BRACE && depth > 0))) {
        if (found.dollar < 0) found.dollar = at
        at++
      } else if (code === CLOSE_BRACE) {
        if (depth > 0) depth--
      } else {
        note(found, code, at, depth)
      }
    }
    end = at + 1
  }
  found.end = end
  found.next = at
  return found
}

function note(found: BareValue, code: number, at: number, depth: number): void {
  if (code === BACKTICK) {
    if (found.dollar < 0) found.dollar = at
  } else if (code === BACKSLASH) {
    if (found.backslash < 0) found.backslash = at
  } else if (code === SINGLE || code === DOUBLE) {
    if (found.quote < 0) found.quote = at
  } else if (code === RETURN) {
    if (found.carriageReturn < 0) found.carriageReturn = at
  } else if (code !== HASH && found.shell < 0 && depth === 0) {
    found.shell = at
  }
}
