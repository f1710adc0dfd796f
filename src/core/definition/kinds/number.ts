import type { Maker } from '../setting.ts'
import { NUMBER_CONSTRAINTS, type NumberConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** A number as JSON writes it (RFC 8259, section 6): no `+`, no leading zero, no `NaN`, nothing behind it. */
const JSON_NUMBER = /^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?(?:[eE][+-]?[0-9]+)?$/

/** A number, with or without a fraction. */
export const number = /* @__PURE__ */ kind<number, Maker<number, NumberConstraints>>({
  name: 'number',
  says: () => 'number',
  constraints: NUMBER_CONSTRAINTS,
  accepts: (value) => typeof value === 'number' && Number.isFinite(value),
  convert(text) {
    if (!JSON_NUMBER.test(text)) return failure('not-number', {})
    const value = Number(text)
    // Adding 0 turns -0 into 0, which compares and prints as people expect.
    return Number.isFinite(value) ? { value: value + 0 } : failure('number-too-large', {})
  },
  text: () => ({ pattern: JSON_NUMBER.source, notExpressed: ['the largest number'] }),
  toText: String,
  schema: { type: 'number' },
})
