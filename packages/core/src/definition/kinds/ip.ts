import type { Maker } from '../setting.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/** Options of addresses. */
export interface IpOptions {
  /**
   * The version of the address: 4 or 6.
   * @default both
   */
  readonly version?: 4 | 6
}

const V4 = /^(?:(?:25[0-5]|2[0-4]\d|1\d\d|[1-9]?\d)(?:\.(?!$)|$)){4}$/

/** An address of the Internet Protocol: `10.4.0.12` (RFC 791, no leading zeros) or `2001:db8::1` (RFC 4291). */
export const ipKind = /* @__PURE__ */ kind<string, Maker<string, IpOptions>>({
  name: 'ip',
  describe: ({ version }) => (version === undefined ? 'IP address' : `IPv${version} address`),
  constraints: [],
  options: { version: { expected: '4 or 6', isValid: (value) => value === 4 || value === 6 } },
  isValid: (value) => typeof value === 'string' && findVersion(value) !== null,
  convert(text, { version }) {
    const found = findVersion(text)
    if (found === null) return failure('not-ip', {})
    return version === undefined || version === found
      ? { value: text }
      : failure('ip-version-wrong', { version: version as number })
  },
  text: ({ version }) =>
    version === 4
      ? { pattern: V4.source }
      : { pattern: '^[0-9a-fA-F:.]+$', notExpressed: ['the forms of IPv6 (RFC 4291)'] },
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

function findVersion(text: string): 4 | 6 | null {
  if (V4.test(text)) return 4
  // The URL parser knows every form of IPv6; a zone or a port would end in a failure.
  return text.length <= 45 && /^[0-9a-fA-F:.]*:[0-9a-fA-F:.]*$/.test(text) && URL.canParse(`http://[${text}]/`)
    ? 6
    : null
}

/**
 * Declares a setting that is an IP address. Accepts IPv4 in four decimal numbers, and IPv6 (RFC 4291).
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `version`: 4 or 6. Default: both
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.ip('Address to listen on', { version: 4, default: '127.0.0.1' })
 * // SERVER_ADDRESS=10.4.0.12 -> '10.4.0.12'
 * ```
 */
export const ip = /* @__PURE__ */ maker(ipKind)
