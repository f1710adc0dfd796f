/** Codes of the characters that have a meaning in an env file. */
export const TAB = 9
export const NEWLINE = 10
export const RETURN = 13
export const SPACE = 32
export const DOUBLE = 34
export const HASH = 35
export const DOLLAR = 36
export const SINGLE = 39
export const OPEN_PARENTHESIS = 40
export const EQUALS = 61
export const BACKSLASH = 92
export const BACKTICK = 96
export const OPEN_BRACE = 123
export const CLOSE_BRACE = 125

const NAME_START = 1
const NAME_PART = 2
const STOPS_BARE = 4

/** The classes of each UTF-16 code unit, so that common characters are skipped with one look-up. */
const CLASSES = new Uint8Array(65536)
for (const character of 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_') {
  CLASSES[character.charCodeAt(0)] = NAME_START | NAME_PART
}
for (const character of '0123456789') CLASSES[character.charCodeAt(0)] = NAME_PART
for (const character of '\n\r\t #$\\`\'"&;|<>()}') CLASSES[character.charCodeAt(0)] = STOPS_BARE

/** True for white space, quotes and whatever else means something within a value without quotes. */
export function stopsBare(code: number): boolean {
  return (CLASSES[code]! & STOPS_BARE) !== 0
}

export function isBlank(code: number): boolean {
  return code === SPACE || code === TAB
}

/** The offset behind blanks. */
export function skipBlanks(text: string, at: number): number {
  while (isBlank(text.charCodeAt(at))) at++
  return at
}

/** The offset behind a name; the same offset where none begins. */
export function nameEnd(text: string, at: number): number {
  if ((CLASSES[text.charCodeAt(at)]! & NAME_START) === 0) return at
  do at++
  while ((CLASSES[text.charCodeAt(at)]! & NAME_PART) !== 0)
  return at
}

/** True where a line ends: at a line feed, with or without a carriage return before it, or at the end of the text. */
export function isLineEnd(text: string, at: number): boolean {
  const code = text.charCodeAt(at)
  if (code === RETURN) return at + 1 >= text.length || text.charCodeAt(at + 1) === NEWLINE
  return code === NEWLINE || at >= text.length
}

/** The offset at which the line ends, before its line break. */
export function findLineEnd(text: string, at: number): number {
  let end = text.indexOf('\n', at)
  if (end < 0) end = text.length
  return end > at && text.charCodeAt(end - 1) === RETURN ? end - 1 : end
}

/**
 * True for an entry whose line ends in CRLF: line breaks within its quotes are then single line feeds. Each entry is judged by its
 * own end, so that no change elsewhere in the file can change its value. The last line may have no end; it is then taken to end
 * as the line before it does.
 *
 * @param at where the entry ends
 * @param lineStart where the line of its name begins
 */
export function endsInCrlf(text: string, at: number, lineStart: number): boolean {
  const end = text.indexOf('\n', at)
  const before = end < 0 ? lineStart - 1 : end
  return before > 0 && text.charCodeAt(before) === NEWLINE && text.charCodeAt(before - 1) === RETURN
}

/** True where nothing but a comment stands on the rest of a line, from just behind a closing quote. */
export function isRestOfLine(text: string, at: number): boolean {
  const behind = skipBlanks(text, at)
  return isLineEnd(text, behind) || (behind > at && text.charCodeAt(behind) === HASH)
}

/** The first letter of `export`, compared first: nearly all lines are told apart by it. */
const SMALL_E = 101

/** Where a name begins that may have the word `export` before it. */
export function skipExport(text: string, start: number): number {
  if (text.charCodeAt(start) !== SMALL_E || !text.startsWith('export', start) || !isBlank(text.charCodeAt(start + 6)))
    return start
  const exported = skipBlanks(text, start + 6)
  // `export = x` gives a value to a variable named export.
  return text.charCodeAt(exported) === EQUALS ? start : exported
}
