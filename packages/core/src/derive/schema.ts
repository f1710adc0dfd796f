import type { Declaration, Definition } from '../definition/definition.ts'
import { hasPlace } from '../definition/former-value.ts'
import type { Item } from '../definition/kinds/kind.ts'
import { annotations } from './annotations.ts'
import { comment, constraintSchema, type Expressed, type Schema } from './constraint-schema.ts'
import { type SchemaOptions, writeSchema } from './stage-schemas.ts'

/**
 * The JSON Schema (2020-12) of the typed values, as a program gets them and JSON writes them. Secrets are their values, not their
 * masks. It accepts what loading accepts, in the stage or in one of them. What it can't express, and so lets pass, stands in the
 * `$comment` of the setting.
 *
 * @returns data to be written as JSON; the same definition always gives the same
 * @throws {SettingsError} if the stage is none of the definition
 * @example
 * ```ts
 * const definition = defineSettings({ dome: { url: setting.url('Address of the dome controller') } })
 * valuesSchema(definition, { stage: 'production' }).properties
 * // { dome: { type: 'object', properties: { url: { type: 'string', ... } }, ... } }
 * ```
 */
export function valuesSchema(definition: Definition, options: SchemaOptions = {}): Schema {
  return writeSchema(definition, { title: 'Settings', where: 'valuesSchema', options, requireSetting }, writeTree)
}

function requireSetting({ keys }: Declaration): Schema {
  return keys.reduceRight<Schema>(
    (inner, key) => ({ required: [key], ...(Object.keys(inner).length === 0 ? {} : { properties: { [key]: inner } }) }),
    {},
  )
}

function writeTree(settings: readonly Declaration[]): Schema {
  const root: Schema = { type: 'object', properties: {}, required: [], additionalProperties: false }
  for (const each of settings.filter(hasPlace)) {
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
  const { schema, notExpressed } = writeType(declaration)
  return {
    ...(declaration.allowEmpty || value === '' ? schema : requireText(schema)),
    ...annotations(declaration),
    ...comment(notExpressed),
    ...(value === undefined ? {} : { default: kind.type.isText === true ? kind.toText(value, options) : value }),
  }
}

/** An empty text counts as missing, so no program gets one. */
function requireText(schema: Schema): Schema {
  const isMissing = schema.type === 'string' && schema.enum === undefined && !schema.minLength
  return isMissing ? { ...schema, minLength: 1 } : schema
}

/** What a typed value of a setting, or of an item of one, is in JSON. */
function writeType({ kind, options }: Item): Expressed {
  const { schema, notExpressed } = constraintSchema({ kind, options })
  const { pattern, notExpressed: ofKind = [] } = (kind.schema.type === 'string' && kind.text?.(options)) || {}
  const item = kind.items?.(options)
  const items = item === undefined ? undefined : writeType(item)
  const left = [
    ...ofKind,
    ...notExpressed,
    ...(options.schema === undefined ? [] : ['a schema of the project']),
    ...(items?.notExpressed ?? []).map((each) => `${each}, of items`),
  ]
  return {
    schema: {
      ...kind.schema,
      ...(kind.values === undefined ? {} : { enum: kind.values(options) }),
      ...(items === undefined ? {} : { items: requireText(items.schema) }),
      ...(pattern === undefined ? {} : { pattern }),
      ...schema,
      ...(pattern === undefined || schema.pattern === undefined ? {} : { allOf: [{ pattern }] }),
    },
    notExpressed: left,
  }
}
