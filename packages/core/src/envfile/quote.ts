import { editingProblem } from '../problems/catalogue/editing.ts'
import { settingsError } from '../problems/settings-error.ts'
import { isWellFormed } from '../text/well-formed.ts'
import type { Quote } from './reading/entry.ts'

/** What needs no quotes for any POSIX shell, wherever it stands in a value. zsh expands a = that begins a word. */
const PLAIN = /^(?![=])(?!.*:=)[A-Za-z0-9_./:@%+,=-]*$/

/**
 * Writes a value so that Mappa and any POSIX shell read it the same: as it is where that is safe, else in single
 * quotes, else in double quotes with escapes.
 *
 * @param value any text
 * @param preferred the quotes to use where they can hold the value
 * @param crlf true for an entry whose line ends in CRLF: a line break is then written as one, and a carriage
 *   return as `\r`, which no shell reads; such lines no shell reads the same anyway
 * @throws {SettingsError} where the value holds a NUL or half a character, which no env file can hold
 * @example
 * ```ts
 * quoteValue('4100')    // 4100
 * quoteValue('5 $ each') // '5 $ each'
 * quoteValue("it's $5") // "it's \$5"
 * ```
 */
export function quoteValue(value: string, preferred: Quote = '', crlf = false): string {
  if (value.includes('\0') || !isWellFormed(value)) {
    throw settingsError(editingProblem('value-unwritable', {}))
  }
  if (preferred === '' && PLAIN.test(value)) return value
  const asIs = !value.includes("'") && !(crlf && value.includes('\r'))
  if (asIs && preferred !== '"') return `'${withBreaks(value, crlf)}'`
  const escaped = value.replace(/[\\"$`]/g, '\\$&')
  return `"${withBreaks(crlf ? escaped.replaceAll('\r', '\\r') : escaped, crlf)}"`
}

function withBreaks(value: string, crlf: boolean): string {
  return crlf ? value.replaceAll('\n', '\r\n') : value
}
