import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

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
export const boolean = /* @__PURE__ */ kind<boolean, Maker<boolean>>({
  name: 'boolean',
  says: () => 'true or false',
  constraints: [],
  accepts: (value) => typeof value === 'boolean',
  convert(text) {
    const value = text.length <= 5 ? MEANINGS.get(text.toLowerCase()) : undefined
    return value === undefined ? failure('not-boolean', {}) : { value }
  },
  toText: String,
  schema: { type: 'boolean' },
})
