import type { Maker } from '../setting.ts'
import { type ConstraintName, wholeNumbers } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Constraints of ports. */
export interface PortConstraints {
  /** The smallest port allowed; 1 if left out. 1024 keeps to ports that need no special right; 0 also allows 0, any free port. */
  readonly minimum?: number
  /** The largest port allowed; 65535 if left out. */
  readonly maximum?: number
}

const isPort = (value: unknown) => Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 65535
const CONSTRAINTS: readonly ConstraintName[] = ['minimum', 'maximum']

/** A port of TCP or UDP (RFC 6335), 1 to 65535. Port 0, "any free one", has to be allowed with `minimum: 0`. */
export const port = /* @__PURE__ */ kind<number, Maker<number, PortConstraints>>({
  name: 'port',
  says: () => 'port',
  constraints: CONSTRAINTS,
  accepts: isPort,
  convert(text, { minimum }) {
    const value = /^(?:0|[1-9][0-9]{0,4})$/.test(text) ? Number(text) : -1
    return isPort(value) && (value > 0 || minimum === 0) ? { value } : failure('not-port', {})
  },
  text: (options) => ({ pattern: `^(?!-)${wholeNumbers(options, options.minimum === 0 ? 0 : 1, 65535)}$` }),
  expressesLimits: true,
  textOfValues: (values) => ({ enum: values.map(String) }),
  toText: String,
  schema: { type: 'integer', minimum: 1, maximum: 65535 },
})
