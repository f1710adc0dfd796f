import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Options of bytes. */
export interface Base64Options {
  /** How many bytes there must be. */
  readonly bytes?: number
}

/** Bytes, written in base64 (RFC 4648, section 4) or base64url (section 5), with or without the `=` at the end. */
export const base64 = /* @__PURE__ */ kind<Uint8Array, Maker<Uint8Array, Base64Options, Uint8Array | string>>({
  name: 'base64',
  says: ({ bytes }) => (bytes === undefined ? 'bytes in base64' : `${bytes} bytes in base64`),
  constraints: [],
  options: {
    bytes: {
      needed: 'a whole number above 0',
      accepts: (value) => Number.isSafeInteger(value) && (value as number) > 0,
    },
  },
  accepts: (value) => value instanceof Uint8Array,
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
  schema: { type: 'string', contentEncoding: 'base64' },
})
