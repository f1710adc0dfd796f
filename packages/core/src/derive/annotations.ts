import type { Declaration } from '../definition/definition.ts'
import type { Schema } from './constraint-schema.ts'

/** What a schema tells people about a setting. */
export function annotations({ description, options, secret }: Declaration): Schema {
  return {
    description,
    ...(options.deprecated === undefined || options.deprecated === false ? {} : { deprecated: true }),
    // A value that is written and never read back.
    ...(secret ? { writeOnly: true } : {}),
  }
}
