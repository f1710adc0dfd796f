import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i

/** An identifier of RFC 9562, as it is written. */
export const uuidKind = /* @__PURE__ */ kind<string, Maker<string>>({
  name: 'uuid',
  describe: () => 'UUID',
  constraints: [],
  isValid: (value) => typeof value === 'string' && UUID.test(value),
  convert: (text) => (UUID.test(text) ? { value: text } : failure('not-uuid', {})),
  text: () => ({ pattern: '^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$' }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

/**
 * Declares a setting that is a UUID. Accepts 32 hexadecimal digits in groups of 8, 4, 4, 4 and 12 (RFC 9562).
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions})
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.uuid('Number of this telescope')
 * // SCOPE_ID=0b7c2f54-93d1-4a0e-8f2b-6d1c9e5a7b30 -> '0b7c2f54-93d1-4a0e-8f2b-6d1c9e5a7b30'
 * ```
 */
export const uuid = /* @__PURE__ */ maker(uuidKind)
