import type { Maker } from '../setting.ts'
import { TEXT_CONSTRAINTS, type TextConstraints } from './constraints.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { TEXT } from './value-types.ts'

/**
 * An absolute address, checked by the URL parser of WHATWG and kept as it was written.
 *
 * That parser is lenient: it takes `localhost:4100` for an address with the scheme `localhost`, adds missing
 * slashes and drops blanks. Here an address has a scheme, `://` and no blanks.
 */
export const urlKind = /* @__PURE__ */ kind<string, Maker<string, TextConstraints>>({
  name: 'url',
  describe: () => 'absolute URL',
  constraints: TEXT_CONSTRAINTS,
  isValid: (value) => typeof value === 'string' && isAddress(value),
  convert: (text) => (isAddress(text) ? { value: text } : failure('not-url', { near: guess(text) })),
  text: () => ({
    pattern: '^[A-Za-z][A-Za-z0-9+.-]*://[^\\s\\u0000-\\u0020\\\\]+$',
    notExpressed: ['that the URL parser of WHATWG accepts it'],
  }),
  textOfValues: (values) => ({ enum: values }),
  toText: (value) => value,
  type: TEXT,
  schema: { type: 'string' },
})

function isAddress(text: string): boolean {
  if (!/^[A-Za-z][A-Za-z0-9+.-]*:\/\/[^\s\u0000-\u0020\\]+$/.test(text) || !URL.canParse(text)) return false
  // The parser drops slashes that are too many before the host of these; others, such as file:///srv, may have none. It also takes a
  // list of addresses for one, whose host has a comma in it.
  return !/^(?:https?|wss?|ftp):\/\/(?:\/|(?:[^/?#]*@)?[^/?#@]*,)/i.test(text)
}

/** `localhost` and its like get a scheme in the hint; other texts are not repeated. */
function guess(text: string): string | null {
  const local = /^(localhost|127\.0\.0\.1|\[::1\])(:[0-9]{1,5})?(?=\/|$)/.exec(text)
  return local === null ? null : `http://${local[0]}`
}

/**
 * Declares a setting that is an absolute URL. Accepts a URL with scheme and host (WHATWG URL); the value is the text as it was written.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `minLength`, `maxLength`, `pattern`: as for setting.string
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.url('Address of the dome controller')
 * // DOME_URL=https://dome.fernhollow.example/ -> 'https://dome.fernhollow.example/'
 * ```
 */
export const url = /* @__PURE__ */ maker(urlKind)
