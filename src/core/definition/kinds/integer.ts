import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints, wholeNumbers } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Digits alone. A leading zero is refused, since some programs would read it as octal. */
const WHOLE = /^-?(?:0|[1-9][0-9]*)$/

/** A whole number that JavaScript holds exactly. */
export const integer = /* @__PURE__ */ kind<number, Maker<number, NumberConstraints>>({
  name: 'integer',
  says: () => 'whole number',
  constraints: NUMBER_CONSTRAINTS,
  accepts: Number.isSafeInteger,
  convert(text) {
    if (!WHOLE.test(text)) return failure('not-integer', {})
    const value = Number(text)
    return Number.isSafeInteger(value) ? { value: value + 0 } : failure('integer-inexact', {})
  },
  text: (options) => ({
    pattern: `^${wholeNumbers(options, -Number.MAX_SAFE_INTEGER, Number.MAX_SAFE_INTEGER)}$`,
    notExpressed: options.multipleOf === undefined ? [] : ['multipleOf'],
  }),
  expressesLimits: true,
  textOfValues: (values) => ({ enum: values.flatMap((each) => (each === 0 ? ['0', '-0'] : [String(each)])) }),
  toText: String,
  schema: { type: 'integer' },
})
