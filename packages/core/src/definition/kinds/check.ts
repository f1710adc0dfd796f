import { type Conversion, failure } from './failure.ts'
import type { KindOption } from './kind.ts'

/**
 * The part of the Standard Schema interface (version 1) that is used here. Objects of many libraries have it; none is needed.
 *
 * @see https://standardschema.dev
 */
export interface StandardSchema<Output = unknown> {
  readonly '~standard': {
    readonly version: 1
    readonly vendor: string
    readonly validate: (value: unknown) => StandardResult<Output> | Promise<StandardResult<Output>>
    readonly types?: { readonly input: unknown; readonly output: Output } | undefined
  }
}

export type StandardResult<Output> =
  | { readonly value: Output; readonly issues?: undefined }
  | { readonly issues: readonly { readonly message: string; readonly path?: readonly unknown[] | undefined }[] }

/** A check of the project's own: a function that says what is wrong, if anything, or a schema. */
export type Check<Type> = ((value: Type) => true | string) | StandardSchema<unknown>

function isSchema(value: unknown): value is StandardSchema {
  const standard = (value as StandardSchema | null | undefined)?.['~standard']
  return typeof standard?.validate === 'function'
}

const schemaOption: KindOption = { expected: 'an object of the Standard Schema interface', isValid: isSchema }
const checkOption: KindOption = {
  expected: 'a function or an object of the Standard Schema interface',
  isValid: (value) => typeof value === 'function' || isSchema(value),
}

/** Puts a value through a schema. Only what answers at once can be used: settings are there before anything else. */
function through(schema: StandardSchema<unknown>, value: unknown): Conversion<unknown> {
  return guardCheck(() => {
    const result = schema['~standard'].validate(value)
    if (result instanceof Promise) {
      result.catch(() => {})
      return failure('check-not-at-once', {})
    }
    if (result.issues === undefined)
      return result.value === undefined ? failure('check-gives-nothing', {}) : { value: result.value }
    return failure('check-refused', { why: result.issues.map(describeIssue).join('; ') || 'no reason is given' })
  })
}

/** Puts a text through a conversion. */
function call(convert: (text: string) => unknown, text: string): Conversion<unknown> {
  return guardCheck(() => {
    const value = convert(text)
    if (value instanceof Promise) {
      value.catch(() => {})
      return failure('check-not-at-once', {})
    }
    return value === undefined ? failure('check-gives-nothing', {}) : { value }
  })
}

/** Puts a value to a check: fine, or what is wrong. */
function ask(check: Check<unknown>, value: unknown): Conversion<unknown> {
  if (isSchema(check)) return through(check, value)
  return guardCheck(() => {
    const answer: unknown = check(value)
    if (answer === true) return { value }
    if (typeof answer === 'string') return failure('check-refused', { why: answer })
    return answer instanceof Promise ? failure('check-not-at-once', {}) : failure('check-gives-nothing', {})
  })
}

function guardCheck(work: () => Conversion<unknown>): Conversion<unknown> {
  try {
    return work()
  } catch (error) {
    return failure('check-refused', { why: error instanceof Error ? error.message : String(error) })
  }
}

function describeIssue({ message, path }: { message: string; path?: readonly unknown[] | undefined }): string {
  const keys = (path ?? []).map((each) => String((each as { key?: unknown } | null)?.key ?? each))
  return keys.length === 0 ? message : `${keys.join('.')}: ${message}`
}

/** What checks of a project's own are put through. Nothing that they throw gets further than here. */
export const check = { through, call, ask, schemaOption, checkOption }
