import type { CommonOptions, ReadAt, Setting } from '../setting.ts'
import { check, type StandardSchema } from './check.ts'
import { failure } from './failure.ts'
import { kind } from './kind.ts'

/** Makes a setting whose type is that of its schema, or `unknown`. */
type JsonMaker = <
  Type = unknown,
  const IsSecret extends boolean = false,
  const IsOptional extends boolean = false,
  const IsPublic extends boolean = false,
  const At extends ReadAt = 'build',
>(
  description: string,
  options?: CommonOptions<NoInfer<Type>, IsSecret, IsOptional, IsPublic, At> & {
    /** Checks what was read, and may change it: any object of the Standard Schema interface. */
    readonly schema?: StandardSchema<Type>
  },
) => Setting<Type, IsSecret, IsOptional, IsPublic, At>

/** Data as JSON writes it (RFC 8259). It arrives frozen, with all that is in it. */
export const json = /* @__PURE__ */ kind<unknown, JsonMaker>({
  name: 'json',
  says: () => 'JSON',
  constraints: [],
  options: { schema: check.schemaOption },
  accepts: (value) => value !== undefined && typeof value !== 'function',
  convert(text, { schema }) {
    let value: unknown
    try {
      value = JSON.parse(text)
    } catch (error) {
      const at = /position (\d+)/.exec((error as Error).message)?.[1]
      return failure('not-json', { at: at === undefined ? 'its end' : `character ${Number(at) + 1}` })
    }
    // JSON has no bound for numbers, and a program has.
    if (!allFinite(value)) return failure('number-too-large', {})
    return schema === undefined ? { value: frozen(value) } : check.through(schema as StandardSchema<unknown>, value)
  },
  toText: (value) => JSON.stringify(value),
  schema: {},
})

function frozen(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  for (const each of Object.values(value)) frozen(each)
  return Object.freeze(value)
}

function allFinite(value: unknown): boolean {
  if (typeof value === 'number') return Number.isFinite(value)
  return typeof value !== 'object' || value === null || Object.values(value).every(allFinite)
}
