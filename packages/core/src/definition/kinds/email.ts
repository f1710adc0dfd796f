import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/** An address as the `email` field of HTML takes it (WHATWG HTML, 4.10.5.1.5), with a dot in its domain. */
const ADDRESS =
  /^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]{1,64}@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)+$/

const isEmail = (text: unknown) => typeof text === 'string' && text.length <= 320 && ADDRESS.test(text)

/** One address of electronic mail, without a name before it. */
export const emailKind = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'email',
  describe: () => 'email address',
  constraints: TEXT_CONSTRAINTS,
  isValid: isEmail,
  convert: (text) => (isEmail(text) ? { value: text } : failure('not-email', {})),
  text: () => ({ pattern: ADDRESS.source, maxLength: 320 }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

/**
 * Declares a setting that is an email address. Accepts what the `email` field of HTML accepts.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minLength`, `maxLength`, `pattern`: as for setting.string
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.email('Who is notified when the dome sticks')
 * // DOME_ALARM=desk@fernhollow.example -> 'desk@fernhollow.example'
 * ```
 */
export const email = /* @__PURE__ */ maker(emailKind)
