import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints, writeWholePattern } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { NUMBER } from './value-types.ts'

/** Digits alone. A leading zero is refused, since some programs would read it as octal. */
const WHOLE = /^-?(?:0|[1-9][0-9]*)$/

/** A whole number that JavaScript holds exactly. */
export const integerKind = /* @__PURE__ */ kind<number, Maker<number, NumberConstraints>>({
  name: 'integer',
  describe: () => 'whole number',
  constraints: NUMBER_CONSTRAINTS,
  isValid: Number.isSafeInteger,
  convert(text) {
    if (!WHOLE.test(text)) return failure('not-integer', {})
    const value = Number(text)
    return Number.isSafeInteger(value) ? { value: value + 0 } : failure('integer-inexact', {})
  },
  text: (options) => ({
    pattern: `^${writeWholePattern(options, -Number.MAX_SAFE_INTEGER, Number.MAX_SAFE_INTEGER)}$`,
    notExpressed: options.multipleOf === undefined ? [] : ['multipleOf'],
  }),
  expressesLimits: true,
  textOfValues: (values) => ({ enum: values.flatMap((each) => (each === 0 ? ['0', '-0'] : [String(each)])) }),
  toText: String,
  type: NUMBER,
  schema: { type: 'integer' },
})

/**
 * Declares a setting that is a whole number. Accepts digits with an optional sign: no unit, separator, fraction or leading zero.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minimum`, `maximum`, `exclusiveMinimum`, `exclusiveMaximum`: limits. Default: none
 *   - `multipleOf`: a number of which it must be a multiple. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.integer('Places at the eyepiece', { minimum: 1, maximum: 40, default: 12 })
 * // NIGHT_PLACES=9 -> 9
 * ```
 */
export const integer = /* @__PURE__ */ maker(integerKind)
