import { meansSame } from '../../text/meaning.ts'
import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { check, type StandardSchema } from './check.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'
import { maker } from './maker.ts'
import { DATA } from './value-types.ts'

/** Makes a setting whose type is that of its schema, or `unknown`. */
export type JsonMaker = <
  Type = unknown,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
>(
  description: string,
  options?: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At> & {
    /**
     * Checks what was read, and may change it: any object of the Standard Schema interface.
     * @default none
     */
    readonly schema?: StandardSchema<Type>
  },
) => Setting<Type, IsSecret, IsOptional, IsPublic, At>

/** Data as JSON writes it (RFC 8259). It arrives frozen, with all that is in it. */
export const jsonKind = /* @__PURE__ */ kind<unknown, JsonMaker>({
  name: 'json',
  describe: () => 'JSON',
  constraints: [],
  options: { schema: check.schemaOption },
  isValid: isData,
  convert(text, { schema }) {
    let value: unknown
    try {
      value = JSON.parse(text)
    } catch (error) {
      const at = /position (\d+)/.exec((error as Error).message)?.[1]
      return failure('not-json', { at: at === undefined ? 'its end' : `character ${Number(at) + 1}` })
    }
    const fault = findFault(value)
    if (fault !== null) return fault
    return schema === undefined ? { value: freeze(value) } : check.through(schema as StandardSchema<unknown>, value)
  },
  text: () => ({ notExpressed: ['what JSON is'] }),
  toText: (value) => JSON.stringify(value),
  type: DATA,
  schema: {},
})

function freeze(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  for (const each of Object.values(value)) freeze(each)
  return Object.freeze(value)
}

/** Deeper data is refused: whatever walks through it, here or in a program, would run out of stack some day. */
const MAX_DEPTH = 500

/** What keeps data from being used. JSON has no bound for numbers and none for its depth, and a program has. */
function findFault(data: unknown) {
  let level: unknown[] = [data]
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > MAX_DEPTH) return failure('json-too-deep', { most: MAX_DEPTH })
    if (level.some((value) => typeof value === 'number' && !Number.isFinite(value)))
      return failure('number-too-large', {})
    level = level.flatMap((value) => (typeof value === 'object' && value !== null ? Object.values(value) : []))
  }
  return null
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
