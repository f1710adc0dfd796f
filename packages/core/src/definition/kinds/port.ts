import type { Maker } from '../setting.ts'
import { type ConstraintName, writeWholePattern } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { NUMBER } from './value-types.ts'

/** Constraints of ports. */
export interface PortConstraints {
  /**
   * The smallest port allowed. 1024 keeps to ports that need no special right; 0 also allows 0, any free port.
   * @default 1
   */
  readonly minimum?: number
  /**
   * The largest port allowed.
   * @default 65535
   */
  readonly maximum?: number
}

const isPort = (value: unknown) => Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 65535
const CONSTRAINTS: readonly ConstraintName[] = ['minimum', 'maximum']

/** A port of TCP or UDP (RFC 6335), 1 to 65535. Port 0, "any free one", has to be allowed with `minimum: 0`. */
export const portKind = /* @__PURE__ */ kind<number, Maker<number, PortConstraints>>({
  name: 'port',
  describe: () => 'port',
  constraints: CONSTRAINTS,
  isValid: isPort,
  convert(text, { minimum }) {
    const value = /^(?:0|[1-9][0-9]{0,4})$/.test(text) ? Number(text) : -1
    return isPort(value) && (value > 0 || minimum === 0) ? { value } : failure('not-port', {})
  },
  text: (options) => ({ pattern: `^(?!-)${writeWholePattern(options, options.minimum === 0 ? 0 : 1, 65535)}$` }),
  expressesLimits: true,
  textOfValues: (values) => ({ enum: values.map(String) }),
  toText: String,
  type: NUMBER,
  schema: { type: 'integer', minimum: 1, maximum: 65535 },
})

/**
 * Declares a setting that is a port number. Accepts a whole number from 1 to 65535, and 0 (any free port) with `minimum: 0`.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minimum`: Default: 1
 *   - `maximum`: Default: 65535
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.port('Port the dome service listens on', { default: 4100 })
 * // SERVER_PORT=4200 -> 4200
 * ```
 */
export const port = /* @__PURE__ */ maker(portKind)
