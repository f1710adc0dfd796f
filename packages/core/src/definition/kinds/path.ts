import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/** Options of paths. */
export interface PathOptions extends TextConstraints {
  /**
   * True if something must be there when settings are loaded.
   * @default false
   */
  readonly mustExist?: boolean
}

/** A path of a file or directory, as it is written. */
export const pathKind = /* @__PURE__ */ kind<string, Maker<string, PathOptions>>({
  name: 'path',
  describe: ({ mustExist }) => (mustExist === true ? 'path of something that exists' : 'path'),
  constraints: TEXT_CONSTRAINTS,
  options: { mustExist: { expected: 'true or false', isValid: (value) => typeof value === 'boolean' } },
  isValid: (value) => typeof value === 'string',
  // No system has a path with such a character in it.
  convert: (text) => (text.includes('\0') ? failure('not-path', {}) : { value: text }),
  text: ({ mustExist }) => ({ pattern: '^[^\\u0000]*$', notExpressed: mustExist === true ? ['mustExist'] : [] }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

/**
 * Declares a setting that is a path. Accepts any text without a NUL character; the value is the text as it was written.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `mustExist`: true if something must be there when settings are loaded. Default: false
 *   - `minLength`, `maxLength`, `pattern`: as for setting.string
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.path('Where bookings are written', { mustExist: true })
 * // DESK_LEDGER=/srv/ledger.txt -> '/srv/ledger.txt'
 * ```
 */
export const path = /* @__PURE__ */ maker(pathKind)
