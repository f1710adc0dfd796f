import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { check, type StandardSchema } from './check.ts'
import { kind } from './kind.ts'

/** Makes a setting whose type is what a conversion or a schema returns. */
export interface CustomMaker {
  <
    Type,
    const IsSecret extends boolean = false,
    const IsOptional extends boolean = false,
    const IsPublic extends boolean = false,
    const At extends ReadAt = 'build',
  >(
    description: string,
    options: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At> & {
      /** Makes the value of a text. What it throws is the reason that is told; it must not give back `undefined`. */
      readonly convert: (text: string) => Type
    },
  ): Setting<Type, IsSecret, IsOptional, IsPublic, At>
  <
    Type,
    const IsSecret extends boolean = false,
    const IsOptional extends boolean = false,
    const IsPublic extends boolean = false,
    const At extends ReadAt = 'build',
  >(
    description: string,
    options: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At> & {
      /** Converts and checks the text: any object of the Standard Schema interface. */
      readonly schema: StandardSchema<Type>
    },
  ): Setting<Type, IsSecret, IsOptional, IsPublic, At>
}

/** Whatever a conversion of the project's own makes of a text. */
export const custom = /* @__PURE__ */ kind<unknown, CustomMaker>({
  name: 'custom',
  says: () => 'text that the program converts',
  constraints: [],
  options: {
    convert: { needed: 'a function', accepts: (value) => typeof value === 'function' },
    schema: check.schemaOption,
  },
  oneOf: ['convert', 'schema'],
  accepts: (value) => value !== undefined,
  convert(text, { convert, schema }) {
    if (schema !== undefined) return check.through(schema as StandardSchema<unknown>, text)
    return check.call(convert as (text: string) => unknown, text)
  },
  text: () => ({ notExpressed: ['the conversion of the program'] }),
  toText: (value) => (typeof value === 'object' ? JSON.stringify(value) : String(value)),
  unchecked: true,
  schema: {},
})
