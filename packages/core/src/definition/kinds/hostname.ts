import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/** Names of machines (RFC 1123, section 2.1): labels of up to 63 letters, digits and hyphens, with dots between them. */
const NAME =
  /^(?=.{1,253}$)[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/

const isHostname = (text: unknown) => typeof text === 'string' && text.length <= 253 && NAME.test(text)

/** The name of a machine, without scheme and port. */
export const hostnameKind = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'hostname',
  describe: () => 'hostname',
  constraints: TEXT_CONSTRAINTS,
  isValid: isHostname,
  convert: (text) => (isHostname(text) ? { value: text } : failure('not-hostname', { near: stripBrackets(text) })),
  text: () => ({ pattern: NAME.source }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

/** The host within an address, for people who wrote the whole of it. */
function stripBrackets(text: string): string | null {
  const host = /^[a-z][a-z0-9+.-]*:\/\/([^/:@?#]+)(?::\d+)?\/?$/i.exec(text)?.[1] ?? /^([^/:@]+):\d+$/.exec(text)?.[1]
  return host !== undefined && isHostname(host) ? host : null
}

/**
 * Declares a setting that is a hostname. Accepts labels of letters, digits and hyphens, separated by dots (RFC 1123).
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minLength`, `maxLength`, `pattern`: as for setting.string
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.hostname('Host of the dome controller')
 * // DOME_HOST=dome.fernhollow.example -> 'dome.fernhollow.example'
 * ```
 */
export const hostname = /* @__PURE__ */ maker(hostnameKind)
