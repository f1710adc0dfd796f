import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { NUMBER } from './value-types.ts'

/** A number as JSON writes it (RFC 8259, section 6): no `+`, no leading zero, no `NaN`, nothing behind it. */
const JSON_NUMBER = /^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?(?:[eE][+-]?[0-9]+)?$/

/** A number, with or without a fraction. */
export const numberKind = /* @__PURE__ */ kind<number, Maker<number, NumberConstraints>>({
  name: 'number',
  describe: () => 'number',
  constraints: NUMBER_CONSTRAINTS,
  isValid: (value) => typeof value === 'number' && Number.isFinite(value),
  convert(text) {
    if (!JSON_NUMBER.test(text)) return failure('not-number', {})
    const value = Number(text)
    // Adding 0 turns -0 into 0, which compares and prints as people expect.
    return Number.isFinite(value) ? { value: value + 0 } : failure('number-too-large', {})
  },
  text: () => ({ pattern: JSON_NUMBER.source, notExpressed: ['the largest number'] }),
  toText: String,
  type: NUMBER,
  schema: { type: 'number' },
})

/**
 * Declares a setting that is a number. Accepts a number as in JSON: `12`, `-0.5`, `1.5e3`.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minimum`, `maximum`, `exclusiveMinimum`, `exclusiveMaximum`: limits. Default: none
 *   - `multipleOf`: a number of which it must be a multiple, by decimal digits. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.number('Degrees above the horizon', { minimum: 0, maximum: 90 })
 * // DOME_TILT=47.5 -> 47.5
 * ```
 */
export const number = /* @__PURE__ */ maker(numberKind)
