import type { LoadingCode } from '../problems/problem.ts'

/** What a line that is no entry probably was. */
export interface Misread {
  readonly code: LoadingCode
  readonly details: object
  /** The name it gives a value to, as far as that can be told. */
  readonly name: string | null
}

const NAME = /^[A-Za-z_][A-Za-z0-9_]*/
/**
 * What people write for a name: a word with wrong characters in it, `=` and a value. Without a value it may be
 * the last line of a key in base64, which ends in `=`.
 */
const NEARLY = /^([\p{L}\p{N}_$@%.-]{1,60})[ \t]*=(?!=?[ \t\r]*$)/u

/**
 * Says what somebody probably meant with a line that is neither an entry nor a comment. Only a name is ever
 * taken from the line, never anything behind it: the line may be a piece of a key.
 *
 * @param line the line from its first character that is not a blank; a long one may be cut
 */
export function misreadLine(line: string): Misread {
  const name = NAME.exec(line)?.[0]
  const behind = name === undefined ? '' : line.slice(name.length)
  if (name !== undefined && /^[ \t]*:(?!\/\/)/.test(behind)) {
    return { code: 'colon-for-equals', details: { name }, name }
  }
  // Capital words joined by _ are a name without a value; a piece of a key hardly ever looks like that.
  if (name !== undefined && /^[A-Z][A-Z0-9]*(_[A-Z0-9]+)+$/.test(name) && /^[ \t\r]*(#|$)/.test(behind)) {
    return { code: 'value-lacking', details: { name }, name }
  }
  const nearly = NEARLY.exec(line)
  if (nearly !== null) {
    return { code: 'name-wrong', details: { written: nearly[1]!, near: mend(nearly[1]!) }, name: null }
  }
  return { code: 'line-not-understood', details: {}, name: null }
}

/** Makes a name out of what was written for one: `DOME-KEY` becomes `DOME_KEY`, `1A` becomes `_1A`. */
function mend(written: string): string | null {
  const mended = written
    .replace(/^[$@%]/, '')
    .replace(/[^A-Za-z0-9_]+/g, '_')
    .replace(/^(?=[0-9])/, '_')
  return /^[A-Za-z_][A-Za-z0-9_]*$/.test(mended) && /[A-Za-z]/.test(mended) ? mended : null
}
