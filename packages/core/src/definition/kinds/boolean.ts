import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'

const MEANINGS = new Map([
  ['true', true],
  ['yes', true],
  ['on', true],
  ['1', true],
  ['false', false],
  ['no', false],
  ['off', false],
  ['0', false],
])

/** True or false, in any of four words each and any case. Nothing else: `"0 "` and `"enabled"` are refused. */
export const booleanKind = /* @__PURE__ */ kind<boolean, Maker<boolean>>({
  name: 'boolean',
  describe: () => 'true or false',
  constraints: [],
  isValid: (value) => typeof value === 'boolean',
  convert(text) {
    const value = text.length <= 5 ? MEANINGS.get(text.toLowerCase()) : undefined
    return value === undefined ? failure('not-boolean', {}) : { value }
  },
  text: () => ({ pattern: `^(?:${words(true)}|${words(false)})$` }),
  textOfValues: (values) => ({ pattern: `^(?:${values.map((each) => words(each === true)).join('|')})$` }),
  toText: String,
  type: { typescript: () => 'boolean', payload: () => 'b', isCommon: true },
  isSwitch: true,
  schema: { type: 'boolean' },
})

/** A pattern for the words of one meaning, in any case. */
function words(meaning: boolean): string {
  const ignoreCase = (letter: string) => (/[a-z]/.test(letter) ? `[${letter.toUpperCase()}${letter}]` : letter)
  return [...MEANINGS]
    .flatMap(([word, each]) => (each === meaning ? [[...word].map(ignoreCase).join('')] : []))
    .join('|')
}

/**
 * Declares a setting that is true or false. Accepts `true` and `false`, `yes` and `no`, `on` and `off`, `1` and `0`, in upper or lower case; nothing else.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions})
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.boolean('Whether the motors may really move', { default: false })
 * // DOME_MOTORS=yes -> true
 * ```
 */
export const boolean = /* @__PURE__ */ maker(booleanKind)
