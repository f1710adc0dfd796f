import { conditionsOf } from '../definition/conditions.ts'
import type { Declaration, Definition } from '../definition/definition.ts'
import type { AnySetting } from '../definition/setting.ts'

type Schema = { [member: string]: unknown }

const DRAFT = 'https://json-schema.org/draft/2020-12/schema'

/**
 * The JSON Schema (2020-12) of the typed values, as a program gets them. Secrets are their values, not their masks.
 *
 * @returns data to be written as JSON; the same definition always gives the same
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
    ;(group.properties as Record<string, Schema>)[key] = typed(each)
    if (!each.optional) (group.required as string[]).push(key)
  }
  return root
}

/**
 * The JSON Schema (2020-12) of the same settings as an environment holds them: texts by variable name.
 *
 * @returns data to be written as JSON; the same definition always gives the same
 */
export function environmentSchema({ settings }: Definition): Schema {
  const byPath = new Map(settings.map((each) => [each.path, each]))
  const rules = settings.flatMap((each) => dependencies(each, byPath))
  return {
    $schema: DRAFT,
    title: 'Settings in the environment',
    type: 'object',
    properties: Object.fromEntries(settings.map((each) => [each.name, written(each)])),
    required: settings.filter((each) => !each.optional && each.default === undefined).map((each) => each.name),
    ...(rules.length === 0 ? {} : { allOf: rules }),
  }
}

function typed(declaration: Declaration): Schema {
  const { kind, options, default: value } = declaration
  const items = options.items as AnySetting | undefined
  return {
    ...kind.schema,
    ...(options.enum === undefined ? {} : { enum: options.enum }),
    ...(kind.name === 'list'
      ? { items: items === undefined ? { type: 'string' } : { ...items.kind.schema, ...constraintsOf(items) } }
      : {}),
    ...constraintsOf(declaration),
    ...annotations(declaration),
    ...(value === undefined ? {} : { default: kind.schema.type === 'string' ? kind.toText(value, options) : value }),
  }
}

function written(declaration: Declaration): Schema {
  const { kind, options, default: value, allowEmpty } = declaration
  const isText = kind.schema.type === 'string'
  return {
    type: 'string',
    ...(isText && kind.schema.format !== undefined ? { format: kind.schema.format } : {}),
    ...(options.enum === undefined ? {} : { enum: options.enum }),
    ...(kind.name === 'boolean'
      ? { pattern: '^([Tt][Rr][Uu][Ee]|[Yy][Ee][Ss]|[Oo][Nn]|1|[Ff][Aa][Ll][Ss][Ee]|[Nn][Oo]|[Oo][Ff][Ff]|0)$' }
      : {}),
    ...(kind.name === 'integer' ? { pattern: '^-?(0|[1-9][0-9]*)$' } : {}),
    ...(kind.name === 'port' ? { pattern: '^[1-9][0-9]{0,4}$' } : {}),
    ...(isText ? constraintsOf(declaration) : {}),
    ...(allowEmpty || options.minLength !== undefined ? {} : { minLength: 1 }),
    ...annotations(declaration),
    ...(value === undefined ? {} : { default: kind.toText(value, options) }),
  }
}

/** The constraints under their names, which are those of JSON Schema already. */
function constraintsOf({ kind, options }: Pick<Declaration, 'kind' | 'options'>): Schema {
  const given = kind.constraints.filter((name) => options[name] !== undefined)
  return Object.fromEntries(
    given.map((name) => [name, options[name] instanceof RegExp ? options[name].source : options[name]]),
  )
}

function annotations({ description, options, secret }: Declaration): Schema {
  return {
    description,
    ...(options.deprecated === undefined || options.deprecated === false ? {} : { deprecated: true }),
    // A value that is written and never read back.
    ...(secret ? { writeOnly: true } : {}),
  }
}

/** `requiredWhere` and `forbiddenWhere` as `if` and `then`. */
function dependencies(declaration: Declaration, byPath: ReadonlyMap<string, Declaration>): Schema[] {
  const conditions = conditionsOf(declaration)
  return (['requiredWhere', 'forbiddenWhere'] as const).flatMap((rule) => {
    const own = conditions.filter((each) => each.rule === rule)
    if (own.length === 0) return []
    const properties = own.map(({ other, values }): [string, Schema] => {
      const { name, kind, options } = byPath.get(other)!
      return [name, { enum: values.map((each) => kind.toText(each, options)) }]
    })
    const required = { required: [declaration.name] }
    return [
      {
        if: { properties: Object.fromEntries(properties), required: properties.map(([name]) => name) },
        then: rule === 'requiredWhere' ? required : { not: required },
      },
    ]
  })
}
