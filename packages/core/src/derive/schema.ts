import type { Declaration, Definition } from '../definition/definition.ts'
import { annotations } from './annotations.ts'
import { comment, constraintSchema, type Schema } from './constraint-schema.ts'

const DRAFT = 'https://json-schema.org/draft/2020-12/schema'

/**
 * The JSON Schema (2020-12) of the typed values, as a program gets them. Secrets are their values, not their masks.
 *
 * @returns data to be written as JSON; the same definition always gives the same
 * @example
 * ```ts
 * const definition = defineSettings({ dome: { url: setting.url('Address of the dome controller') } })
 * valuesSchema(definition).properties
 * // { dome: { type: 'object', properties: { url: { type: 'string', format: 'uri', ... } }, ... } }
 * ```
 */
export function valuesSchema({ settings }: Definition): Schema {
  const root: Schema = {
    $schema: DRAFT,
    title: 'Settings',
    type: 'object',
    properties: {},
    required: [],
    additionalProperties: false,
  }
  for (const each of settings) {
    let group = root
    for (const key of each.keys.slice(0, -1)) {
      const members = group.properties as Record<string, Schema>
      const known = Object.hasOwn(members, key)
      members[key] ??= { type: 'object', properties: {}, required: [], additionalProperties: false }
      if (!known) (group.required as string[]).push(key)
      group = members[key]
    }
    const key = each.keys.at(-1)!
    ;(group.properties as Record<string, Schema>)[key] = addType(each)
    if (!each.optional) (group.required as string[]).push(key)
  }
  return root
}

function addType(declaration: Declaration): Schema {
  const { kind, options, default: value } = declaration
  const items = kind.items?.(options)
  const { schema, notExpressed } = constraintSchema(declaration)
  return {
    ...kind.schema,
    ...(kind.values === undefined ? {} : { enum: kind.values(options) }),
    ...(items === undefined ? {} : { items: { ...items.kind.schema, ...constraintSchema(items).schema } }),
    ...schema,
    ...annotations(declaration),
    ...comment(notExpressed),
    ...(value === undefined ? {} : { default: kind.type.isText === true ? kind.toText(value, options) : value }),
  }
}
