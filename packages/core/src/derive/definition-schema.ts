import { kindsByName } from '../definition/kinds/by-name.ts'
import type { Kind, KindOption } from '../definition/kinds/kind.ts'
import { findOptions, type OptionScope } from '../definition/options.ts'

/** One of each type of JSON, to find out what an option takes. */
const SAMPLES: Readonly<Record<string, readonly unknown[]>> = {
  boolean: [true],
  integer: [1],
  number: [0.5],
  string: ['NAME', 'P28D', 'build', '^x$', 'uuid'],
  array: [['x'], ['NAME'], [1]],
  object: [{}, { x: {} }],
}

/** The forms of rules that plain data can have. */
const RULES = [
  ['ascending', 'Numbers or dates, each smaller than the next', { orEqual: { type: 'boolean' } }],
  ['exactlyOne', 'Optional settings of which exactly one is set', {}],
  ['atLeastOne', 'Optional settings of which one is set, or several', {}],
  ['allOrNone', 'Optional settings that are all set, or none of them', {}],
  [
    'sum',
    'Numbers whose sum has limits',
    { minimum: { type: ['number', 'string'] }, maximum: { type: ['number', 'string'] } },
  ],
].map(([form, description, options]) => ({
  type: 'object',
  description,
  required: [form],
  properties: {
    [form as string]: { type: 'array', items: { type: 'string' }, minItems: form === 'sum' ? 1 : 2, uniqueItems: true },
    ...(options as object),
    message: { description: 'What to do where the rule is broken', type: 'string' },
    stages: { description: 'The stages in which it holds', type: 'array', items: { type: 'string' }, minItems: 1 },
  },
  additionalProperties: false,
}))

/**
 * The JSON Schema (2020-12) of `settings.definition.json`, by which editors complete it and mark mistakes.
 *
 * @returns the same schema always; it depends on the kinds alone
 * @example
 * ```ts
 * definitionSchema().required // ['settings']
 * ```
 */
export function definitionSchema(): Readonly<Record<string, unknown>> {
  const kinds = [...kindsByName().values()]
  const names = kinds.map(({ name }) => name)
  const ofAll = (scope: OptionScope) => intersectProperties(kinds.map((kind) => findProperties(kind, scope)))
  const alike = findAlike(kinds.map((kind) => ({ name: kind.name, members: listMembers(kind, ofAll) })))
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'A definition of settings',
    type: 'object',
    required: ['settings'],
    properties: {
      $schema: { type: 'string' },
      stages: {
        description:
          'The stages of the project; the first is used if none is named. Default: development, staging, production',
        oneOf: [
          { type: 'array', items: { type: 'string', pattern: '^[a-z][a-z0-9-]*$' }, minItems: 1, uniqueItems: true },
          {
            description: 'What each stage is like; a name with one * stands for any text',
            type: 'object',
            propertyNames: { pattern: '^[a-z][a-z0-9-]*(?:\\*[a-z0-9-]*)?$' },
            additionalProperties: {
              type: 'object',
              properties: {
                like: { description: 'A stage whose files, rules and defaults hold here, too', type: 'string' },
              },
              additionalProperties: false,
            },
            minProperties: 1,
          },
        ],
      },
      prefix: { description: 'What all variable names begin with. Default: nothing', type: 'string' },
      directory: { description: 'A directory with one file for each variable, above all env files', type: 'string' },
      layersFrom: {
        description: 'Directories whose layer files lie below those of the project, lowest first; relative paths',
        type: 'array',
        items: { type: 'string', minLength: 1 },
        uniqueItems: true,
      },
      requireStage: { description: 'True if no program may start without a stage that is named', type: 'boolean' },
      programs: {
        description: 'The programs of the project, where they do not all need the same settings',
        type: 'array',
        items: { type: 'string', pattern: '^[A-Za-z][\\w-]*$' },
        uniqueItems: true,
      },
      rules: {
        description: 'Rules between settings, which they name by their paths',
        type: 'array',
        items: { oneOf: [...RULES] },
      },
      settings: { $ref: '#/$defs/group' },
    },
    additionalProperties: false,
    $defs: {
      group: {
        description: 'Settings, and groups of settings',
        type: 'object',
        additionalProperties: {
          if: { required: ['kind'], properties: { kind: { type: 'string' } } },
          then: { $ref: '#/$defs/setting' },
          else: { $ref: '#/$defs/group' },
        },
      },
      setting: {
        type: 'object',
        required: ['kind', 'description'],
        properties: { kind: { description: 'What the value is', enum: names } },
        allOf: alike.map(({ names }) => ({
          if: { properties: { kind: { enum: names } } },
          then: { $ref: `#/$defs/${names.join('-')}` },
        })),
      },
      // What all kinds have stands once: it would be four fifths of the schema otherwise.
      anyKind: {
        properties: {
          description: { description: 'What the setting is for', type: 'string', minLength: 1 },
          ...ofAll('setting'),
          stages: { description: 'What is different in single stages', type: 'object' },
        },
      },
      anyKindInStage: { properties: ofAll('stage') },
      ...Object.fromEntries(
        alike.map(({ names, members }) => [
          names.join('-'),
          { description: `A setting of the kind ${names.join(', ')}`, ...members },
        ]),
      ),
      item: {
        oneOf: [
          { enum: names },
          {
            type: 'object',
            required: ['kind'],
            properties: { kind: { enum: names } },
          },
        ],
      },
    },
  }
}

function listMembers(kind: Kind, ofAll: (scope: OptionScope) => Properties): Properties {
  const inStage = without(ofAll('stage'), findProperties(kind, 'stage'))
  return {
    $ref: '#/$defs/anyKind',
    properties: {
      kind: true,
      ...without(ofAll('setting'), findProperties(kind, 'setting')),
      stages: {
        additionalProperties: {
          type: 'object',
          $ref: '#/$defs/anyKindInStage',
          properties: inStage,
          unevaluatedProperties: false,
        },
      },
    },
    ...getRequired(kind),
    unevaluatedProperties: false,
  }
}

function getRequired({ options = {} }: Kind): { readonly required?: readonly string[] } {
  const required = Object.entries(options).flatMap(([name, each]) => (each.required === true ? [name] : []))
  return required.length === 0 ? {} : { required }
}

type Properties = Readonly<Record<string, unknown>>

/** Kinds with the same members. */
interface Alike {
  readonly names: readonly string[]
  readonly members: Properties
}

function findAlike(kinds: readonly { readonly name: string; readonly members: Properties }[]): Alike[] {
  const groups = new Map<string, Alike>()
  for (const { name, members } of kinds) {
    const key = JSON.stringify(members)
    groups.set(key, { names: [...(groups.get(key)?.names ?? []), name], members })
  }
  return [...groups.values()]
}

/** The properties that are the same in all. */
function intersectProperties([first, ...others]: readonly Properties[]): Properties {
  const all = others.map((each) => new Set(Object.entries(each).map((entry) => JSON.stringify(entry))))
  return Object.fromEntries(
    Object.entries(first ?? {}).filter((entry) => all.every((each) => each.has(JSON.stringify(entry)))),
  )
}

function without(shared: Properties, properties: Properties): Properties {
  return Object.fromEntries(Object.entries(properties).filter(([name]) => !(name in shared)))
}

/** The options of a kind. A check is a function, which JSON does not have. */
function findProperties(kind: Kind, scope: OptionScope): Properties {
  const { check: _, stages: __, ...options } = findOptions(kind, scope) as Record<string, KindOption>
  const limits = new Set<string>(kind.constraints)
  return Object.fromEntries(
    Object.entries(options).map(([name, option]) => {
      if (option.isSetting === true) return [name, { description: option.expected, $ref: '#/$defs/item' }]
      // Limits and defaults may be texts of the kind, such as 15m.
      const isAny = name === 'default' || (kind.readsText === true && limits.has(name))
      return [name, { description: option.expected, ...(isAny ? {} : toType(option)) }]
    }),
  )
}

/** The types that an option takes, found by trying. */
function toType({ isValid }: KindOption): { readonly type?: string | readonly string[] } {
  const types = Object.entries(SAMPLES).flatMap(([type, samples]) =>
    samples.some((each) => isValid(each)) ? [type] : [],
  )
  if (types.length === 0 || types.length === Object.keys(SAMPLES).length) return {}
  const found = types.includes('number') ? types.filter((each) => each !== 'integer') : types
  return { type: found.length === 1 ? found[0]! : found }
}
