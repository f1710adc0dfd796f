import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints } from './constraints.ts'
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
  toText: String,
  schema: { type: 'integer' },
})
