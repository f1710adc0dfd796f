import { type Condition, listConditions, listWantedValues } from '../definition/conditions.ts'
import type { Declaration, Definition } from '../definition/definition.ts'
import { toPlaceholder } from '../text/placeholder.ts'
import { annotations } from './annotations.ts'
import { comment, constraintSchema, type Expressed, type Schema } from './constraint-schema.ts'
import { type SchemaOptions, writeSchema } from './stage-schemas.ts'

/**
 * The JSON Schema (2020-12) of the settings as an environment holds them: texts by variable name. It accepts whatever loading
 * accepts, in the stage or in one of them. What it can't express, and so lets pass, stands in the `$comment` of the setting.
 *
 * @returns data to be written as JSON; the same definition always gives the same
 * @throws {SettingsError} if the stage is none of the definition
 * @example
 * ```ts
 * const validate = compile(environmentSchema(definition))
 * validate({ SERVER_PORT: '4100' })
 * ```
 */
export function environmentSchema(definition: Definition, options: SchemaOptions = {}): Schema {
  return writeSchema(
    definition,
    { title: 'Settings in the environment', where: 'environmentSchema', options, requireSetting },
    writeTexts,
  )
}

/** A former name would do as well, and which of them counts can't be said here. */
function requireSetting({ name, allowEmpty, formerly }: Declaration): Schema | null {
  if (formerly.length > 0) return null
  return { required: [name], ...(allowEmpty ? {} : { properties: { [name]: { minLength: 1 } } }) }
}

function writeTexts(settings: readonly Declaration[]): Schema {
  const byPath = new Map(settings.map((each) => [each.path, each]))
  const entries = settings.map((each): [Declaration, Expressed, Rules] => [
    each,
    textSchema(each),
    listRules(each, byPath),
  ])
  const rules = entries.flatMap(([each, { schema }, own]) => [...presence(each, schema), ...own.rules])
  const properties = entries.map(([each, text, own]) => [each.name, property(each, text, own)])
  return {
    type: 'object',
    properties: Object.fromEntries(properties),
    required: settings.filter((each) => isRequired(each) && each.formerly.length === 0).map((each) => each.name),
    ...(rules.length === 0 ? {} : { allOf: rules }),
  }
}

const isRequired = ({ optional, default: value }: Declaration) => !optional && value === undefined

function property(declaration: Declaration, { schema, notExpressed }: Expressed, { left }: Rules): Schema {
  const { kind, options, default: value, secret } = declaration
  const missing = [...notExpressed, ...left]
  return {
    type: 'string',
    ...schema,
    ...annotations(declaration),
    ...comment(missing),
    ...(value === undefined || secret ? {} : { default: kind.toText(value, options) }),
  }
}

/** What a text of a setting must be. An empty one counts as missing, unless the setting says otherwise. */
function textSchema(declaration: Declaration): Expressed {
  const { kind, options, allowEmpty, name } = declaration
  const { pattern, notExpressed: ofKind = [], maxLength } = kind.text?.(options) ?? {}
  const isText = kind.type.isText === true && kind.constraints.includes('pattern')
  const { schema, notExpressed } = constraintSchema(
    isText ? declaration : { kind: { ...kind, constraints: [] }, options },
  )
  const numbers =
    isText || kind.expressesLimits === true ? [] : kind.constraints.filter((each) => options[each] !== undefined)
  const parts: Schema[] = [{ not: { const: toPlaceholder(name) } }]
  if (pattern !== undefined) parts.push({ pattern })
  if (kind.values !== undefined) parts.push({ enum: kind.values(options) })
  if (maxLength !== undefined) parts.push({ maxLength })
  const rules = { ...schema, allOf: parts }
  const all = [...ofKind, ...notExpressed, ...numbers]
  if (allowEmpty) return { schema: rules, notExpressed: all }
  if (isRequired(declaration)) return { schema: { minLength: 1, ...requireOne(rules) }, notExpressed: all }
  return { schema: { anyOf: [{ maxLength: 0 }, rules] }, notExpressed: all }
}

/** A minimal length of 0 allows what counts as missing. */
function requireOne(rules: Schema): Schema {
  return rules.minLength === 0 ? { ...rules, minLength: 1 } : rules
}

/** With former names, the first of them that is set counts where the own one is not. */
function presence(declaration: Declaration, schema: Schema): Schema[] {
  const { name, formerly } = declaration
  if (formerly.length === 0) return []
  const none: Schema = isRequired(declaration) ? { required: [name] } : {}
  const otherwise = formerly.reduceRight<Schema>(
    (rest, former) => ({ if: { required: [former] }, then: { properties: { [former]: schema } }, else: rest }),
    none,
  )
  return [{ if: { required: [name] }, else: otherwise }]
}

interface Rules {
  readonly rules: readonly Schema[]
  /** Rules that are not expressed, as text. */
  readonly left: readonly string[]
}

/** `requiredIf` and `forbiddenIf` as `if` and `then`. */
function listRules(declaration: Declaration, byPath: ReadonlyMap<string, Declaration>): Rules {
  const conditions = listConditions(declaration)
  const rules: Schema[] = []
  const left: string[] = []
  const isThere = requireSetting(declaration)
  for (const rule of ['requiredIf', 'forbiddenIf'] as const) {
    const own = conditions.filter((each) => each.rule === rule)
    // What has a default is there in any case.
    if (own.length === 0 || (rule === 'requiredIf' && declaration.default !== undefined)) continue
    const held = own.map((each) => holding(each, byPath.get(each.other)!))
    if (isThere === null || held.includes(null)) left.push(rule)
    else rules.push({ if: { allOf: held }, then: rule === 'requiredIf' ? isThere : { not: isThere } })
  }
  return { rules, left }
}

/** That another setting has one of the values that are waited for; `null` where its texts can't be listed. */
function holding(condition: Condition, other: Declaration): Schema | null {
  const { name, kind, formerly, default: value, allowEmpty } = other
  const wanted = listWantedValues(condition, other)
  const text = kind.textOfValues?.(wanted)
  if (text === undefined || formerly.length > 0) return null
  const isSet = { required: [name], properties: { [name]: text } }
  if (!wanted.includes(value)) return isSet
  const isMissing = [
    { not: { required: [name] } },
    ...(allowEmpty ? [] : [{ properties: { [name]: { maxLength: 0 } } }]),
  ]
  return { anyOf: [isSet, ...isMissing] }
}
