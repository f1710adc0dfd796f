import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'

/** Options of bytes. */
export interface Base64Options {
  /**
   * How many bytes there must be.
   * @default any number
   */
  readonly bytes?: number
}

/** Bytes, written in base64 (RFC 4648, section 4) or base64url (section 5), with or without the `=` at the end. */
export const base64Kind = /* @__PURE__ */ kind<Uint8Array, Maker<Uint8Array, Base64Options, Uint8Array | string>>({
  name: 'base64',
  describe: ({ bytes }) => (bytes === undefined ? 'bytes in base64' : `${bytes} bytes in base64`),
  constraints: [],
  options: {
    bytes: {
      expected: 'a whole number above 0',
      isValid: (value) => Number.isSafeInteger(value) && (value as number) > 0,
    },
  },
  isValid: (value) => value instanceof Uint8Array,
  convert(text, { bytes }) {
    const digits = text.replace(/=+$/, '')
    const padding = text.length - digits.length
    const isOne = /^[A-Za-z0-9+/]*$/.test(digits) || /^[\w-]*$/.test(digits)
    if (!isOne || digits.length % 4 === 1 || (padding > 0 && text.length % 4 !== 0) || padding > 2)
      return failure('not-base64', {})
    const binary = atob(digits.replaceAll('-', '+').replaceAll('_', '/'))
    const value = Uint8Array.from(binary, (each) => each.charCodeAt(0))
    return bytes === undefined || value.length === bytes
      ? { value }
      : failure('bytes-wrong', { needed: bytes as number, length: value.length })
  },
  text: () => ({
    pattern: '^[A-Za-z0-9+/_-]*={0,2}$',
    notExpressed: ['the number of bytes', 'one alphabet at a time'],
  }),
  toText: (value) => btoa(Array.from(value, (byte) => String.fromCharCode(byte)).join('')),
  readsText: true,
  type: {
    typescript: () => 'Uint8Array',
    payload: () => 'an',
    fromPayload: (carried) => `${carried} && Uint8Array.from(${carried})`,
    isText: true,
  },
  schema: { type: 'string', contentEncoding: 'base64' },
})

/**
 * Declares a setting that is bytes in base64. Accepts base64 and base64url (RFC 4648), with or without padding; the value is a `Uint8Array`.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `bytes`: how many bytes it must have. Default: any number
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.base64('Key that signs booking slips', { secret: true, bytes: 32 })
 * // DESK_SEAL=... (44 characters) -> Secret of 32 bytes
 * ```
 */
export const base64 = /* @__PURE__ */ maker(base64Kind)
