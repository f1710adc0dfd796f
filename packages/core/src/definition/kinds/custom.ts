import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { check, type StandardSchema } from './check.ts'
import { kind, MAKES_TYPE, NO_TEXT } from './kind.ts'
import { maker } from './maker.ts'
import { DATA } from './value-types.ts'

/** Makes a setting whose type is what a conversion or a schema returns. */
export interface CustomMaker {
  <
    Type,
    const IsSecret extends boolean = false,
    const IsOptional extends boolean = false,
    const IsPublic extends boolean = false,
    const At extends ReadAt = 'build',
    const For extends string = string,
  >(
    description: string,
    options: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At, NoInfer<Type>, For> & {
      /** Makes the value of a text. What it throws is the reason that is told; it must not give back `undefined`. */
      readonly convert: (text: string) => Type
    },
  ): Setting<Type, IsSecret, IsOptional, IsPublic, At, For>
  <
    Type,
    const IsSecret extends boolean = false,
    const IsOptional extends boolean = false,
    const IsPublic extends boolean = false,
    const At extends ReadAt = 'build',
    const For extends string = string,
  >(
    description: string,
    options: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At, NoInfer<Type>, For> & {
      /** Converts and checks the text: any object of the Standard Schema interface. */
      readonly schema: StandardSchema<Type>
    },
  ): Setting<Type, IsSecret, IsOptional, IsPublic, At, For>
}

/** Whatever a conversion of the project's own makes of a text. */
export const customKind = /* @__PURE__ */ kind<unknown, CustomMaker>({
  name: 'custom',
  describe: () => 'text that the program converts',
  constraints: [],
  options: {
    convert: { expected: 'a function', isValid: (value) => typeof value === 'function', keepsType: MAKES_TYPE },
    schema: { ...check.schemaOption, keepsType: MAKES_TYPE },
  },
  oneOf: ['convert', 'schema'],
  isValid: (value) => value !== undefined,
  convert(text, { convert, schema }) {
    if (schema !== undefined) return check.through(schema as StandardSchema<unknown>, text)
    return check.call(convert as (text: string) => unknown, text)
  },
  text: () => ({ notExpressed: ['the conversion of the program'] }),
  toText(value) {
    if (typeof value !== 'object') return String(value)
    try {
      const written = JSON.stringify(value)
      // What JSON writes as a text, an address or a date for example, is that text.
      const data: unknown = JSON.parse(written)
      return typeof data === 'string' ? data : written
    } catch {
      return NO_TEXT
    }
  },
  unchecked: true,
  type: DATA,
  schema: {},
})

/**
 * Declares a setting that is converted by your own function. Accepts what `convert` accepts: it gets the text and returns the value, or throws with the reason.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `convert`: the function that converts the text; or schema: a Standard Schema that does. One of them is required
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.custom('Where the dome points', { convert: (text) => text.split('/').map(Number) })
 * // DOME_POINT=120/45 -> [120, 45]
 * ```
 */
export const custom = /* @__PURE__ */ maker(customKind)
