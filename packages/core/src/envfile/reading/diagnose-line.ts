import type { LoadingCode } from '../../problems/problem.ts'

/** What a line that is no entry probably was. */
export interface Misread {
  readonly code: LoadingCode
  /**
   * The name it seems to give a value to; `null` where it seems to name none. The line may be a piece of a secret, so this is
   * shown only where it turns out to be the name of a setting.
   */
  readonly suspect: string | null
  /** True where the line can be taken for an entry of that name, so that its value is not reported as missing as well. */
  readonly isEntry: boolean
}

const NAME = /^[A-Za-z_][A-Za-z0-9_]*/
/**
 * What people write for a name: a word with wrong characters in it, `=` and a value. Without a value it may be
 * the last line of a key in base64, which ends in `=`.
 */
const NEARLY = /^([\p{L}\p{N}_$@%.-]{1,60})[ \t]*=(?!=?[ \t\r]*$)/u

/**
 * Finds out what was probably meant by a line that is neither an entry nor a comment.
 *
 * @param line the line from its first character that is not a blank; a long one may be cut
 */
export function diagnoseMisread(line: string): Misread {
  const name = NAME.exec(line)?.[0]
  const behind = name === undefined ? '' : line.slice(name.length)
  if (name !== undefined && /^[ \t]*:(?!\/\/)/.test(behind)) {
    return { code: 'colon-for-equals', suspect: name, isEntry: true }
  }
  // Capital words joined by _ are a name without a value; a piece of a key hardly ever looks like that.
  if (name !== undefined && /^[A-Z][A-Z0-9]*(_[A-Z0-9]+)+$/.test(name) && /^[ \t\r]*(#|$)/.test(behind)) {
    return { code: 'value-lacking', suspect: name, isEntry: true }
  }
  const nearly = NEARLY.exec(line)
  if (nearly !== null) return { code: 'name-wrong', suspect: extractName(nearly[1]!), isEntry: false }
  return { code: 'line-not-understood', suspect: null, isEntry: false }
}

/** Makes a name out of what was written for one: `DOME-KEY` becomes `DOME_KEY`, `1A` becomes `_1A`. */
function extractName(written: string): string | null {
  const name = written
    .replace(/^[$@%]/, '')
    .replace(/[^A-Za-z0-9_]+/g, '_')
    .replace(/^(?=[0-9])/, '_')
  return /^[A-Za-z_][A-Za-z0-9_]*$/.test(name) && /[A-Za-z]/.test(name) ? name : null
}
