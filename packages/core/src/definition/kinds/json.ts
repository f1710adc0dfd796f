import { findJsonFault, type JsonFault } from '../../text/json-text.ts'
import { meansSame } from '../../text/meaning.ts'
import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { check, type StandardSchema } from './check.ts'
import { type Failure, failure } from './failure.ts'
import { kind, MAKES_TYPE } from './kind.ts'
import { maker } from './maker.ts'
import { DATA } from './value-types.ts'

/** Makes a setting whose type is that of its schema, or `unknown`. */
export type JsonMaker = <
  Type = unknown,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
  const For extends string = string,
>(
  description: string,
  options?: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At, NoInfer<Type>, For> & {
    /**
     * Checks what was read, and may change it: any object of the Standard Schema interface.
     * @default none
     */
    readonly schema?: StandardSchema<Type>
  },
) => Setting<Type, IsSecret, IsOptional, IsPublic, At, For>

/** Data as JSON writes it (RFC 8259). It arrives frozen, with all that is in it. */
export const jsonKind = /* @__PURE__ */ kind<unknown, JsonMaker>({
  name: 'json',
  describe: () => 'JSON',
  constraints: [],
  options: { schema: { ...check.schemaOption, keepsType: MAKES_TYPE } },
  isValid: isData,
  convert(text, { schema }) {
    const fault = findJsonFault(text, MAX_DEPTH)
    if (fault !== null) return refuse(fault, text)
    const value: unknown = JSON.parse(text)
    return schema === undefined ? { value } : check.through(schema as StandardSchema<unknown>, value)
  },
  text: () => ({ notExpressed: ['what JSON is'] }),
  toText: (value) => JSON.stringify(value),
  type: DATA,
  schema: {},
})

/** Deeper data is refused: whatever walks through it, here or in a program, would run out of stack some day. */
const MAX_DEPTH = 500

/** JSON has no bound for numbers and none for its depth, and a program has. */
function refuse(fault: JsonFault, text: string): { failure: Failure } {
  const at = describePlace(text, fault.offset)
  switch (fault.what) {
    case 'syntax':
      return failure('not-json', { at })
    case 'depth':
      return failure('json-too-deep', { most: MAX_DEPTH })
    case 'member':
      return failure('json-member-twice', { at })
    case 'number':
      return fault.isTooLarge ? failure('number-too-large', {}) : failure('json-number-inexact', { at })
  }
}

function describePlace(text: string, offset: number): string {
  if (offset >= text.length) return 'its end'
  const before = text.slice(0, offset).split('\n')
  const character = `character ${before.at(-1)!.length + 1}`
  return before.length === 1 ? character : `line ${before.length}, ${character}`
}

/** True for what JSON can write and returns the same. */
function isData(value: unknown): boolean {
  if (value === undefined || typeof value === 'function') return false
  try {
    return meansSame(JSON.parse(JSON.stringify(value)), value)
  } catch {
    return false
  }
}

/**
 * Declares a setting that is data in JSON. Accepts any JSON (RFC 8259) of up to 500 levels; the value is frozen.
 *
 * @param description what the setting is for, shown in messages, help and derived files
 * @param options the common options (`default`, `optional`, `secret`, `public`, ...; see {@link CommonOptions}), and:
 *   - `schema`: a Standard Schema that checks and types the data. Default: none
 * @throws {SettingsError} in `defineSettings`, if an option is invalid
 * @example
 * ```ts
 * setting.json('Heights of the stars', { default: {} })
 * // STARS='{"vega": 62}' -> { vega: 62 }
 * ```
 */
export const json = /* @__PURE__ */ maker(jsonKind)
