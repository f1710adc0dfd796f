import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/** Any text, as it stands: nothing is trimmed. */
export const stringKind = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'string',
  describe: () => 'text',
  constraints: TEXT_CONSTRAINTS,
  isValid: (value) => typeof value === 'string',
  convert: (text) => ({ value: text }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

/**
 * Declares a setting that is any text. The text is used as it is.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minLength`, `maxLength`: limits in characters. Default: none
 *   - `pattern`: a regular expression that the text must match. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.string('Key the dome controller asks for', { secret: true, minLength: 24 })
 * // DOME_KEY=drill-0f4c9a7be2d81635a7e4 -> Secret, whose reveal() returns the text
 * ```
 */
export const string = /* @__PURE__ */ maker(stringKind)
