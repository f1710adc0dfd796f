import { NO_STAGES } from '../definition/declare.ts'
import { type Declaration, type Definition, resolveStage } from '../definition/definition.ts'
import { isForStage, PRESENCE } from '../definition/rule-forms.ts'
import { describeRule } from '../definition/rules-between.ts'
import { listLineage } from '../definition/stages.ts'
import { checkOptionNames, mustBeStage } from '../problems/option-names.ts'
import { comment, type Schema } from './constraint-schema.ts'

const DRAFT = 'https://json-schema.org/draft/2020-12/schema'

/** Options of the schemas. */
export interface SchemaOptions {
  /**
   * The stage whose rules and defaults hold.
   * @default all of them: where stages differ, the schema accepts what one of them accepts, and has each under `$defs`
   */
  readonly stage?: string
}

/** What a schema is about. */
interface SchemaFrame {
  readonly title: string
  /** The function that was called, for messages. */
  readonly where: string
  readonly options: SchemaOptions
  /** The schema of data in which a setting is set; `null` where it can't be said. */
  readonly requireSetting: (declaration: Declaration) => Schema | null
}

/** The rules between settings: those that are about what is set as schemas, all others in words. */
function writeRules(
  { rules, ...tree }: Definition,
  {
    stage,
    settings,
    requireSetting,
  }: Pick<SchemaFrame, 'requireSetting'> & { readonly stage: string; readonly settings: readonly Declaration[] },
): { readonly schemas: readonly Schema[]; readonly notExpressed: readonly string[] } {
  const schemas: Schema[] = []
  const notExpressed: string[] = []
  for (const rule of rules.filter((each) => isForStage(each, listLineage(tree, stage)))) {
    const parts = rule.paths.map((path) => requireSetting(settings.find((each) => each.path === path)!))
    if (!PRESENCE.has(rule.form) || parts.includes(null)) notExpressed.push(describeRule(rule, settings, stage))
    else if (rule.form === 'exactlyOne') schemas.push({ oneOf: parts })
    else if (rule.form === 'atLeastOne') schemas.push({ anyOf: parts })
    else schemas.push({ anyOf: [{ allOf: parts }, { not: { anyOf: parts } }] })
  }
  return { schemas, notExpressed }
}

/**
 * Writes a schema that accepts what loading accepts, for one stage or for all.
 *
 * @param write writes the schema of settings as they are in one stage
 * @throws {SettingsError} if the stage is none of the definition
 */
export function writeSchema(
  definition: Definition,
  { title, where, options, requireSetting }: SchemaFrame,
  write: (settings: readonly Declaration[]) => Schema,
): Schema {
  checkOptionNames(options, ['stage'], where)
  const { settings, stages, stagePatterns } = definition
  const writeStage = (stage: string): Schema => {
    const own = settings.map((each) => ({ ...resolveStage(each, stage), stages: NO_STAGES }))
    const { allOf = [], ...schema } = write(own)
    const { schemas, notExpressed } = writeRules(definition, { stage, settings: own, requireSetting })
    const all = [...(allOf as readonly Schema[]), ...schemas]
    return { ...schema, ...comment(notExpressed), ...(all.length === 0 ? {} : { allOf: all }) }
  }
  if (options.stage !== undefined) {
    mustBeStage(options.stage, definition, 'the option stage')
    return { $schema: DRAFT, title: `${title}, in ${options.stage}`, ...writeStage(options.stage) }
  }
  const written = [...stages, ...stagePatterns].map((stage) => ({ stage, schema: writeStage(stage) }))
  const known = new Map<string, string>()
  for (const { stage, schema } of written) {
    const text = JSON.stringify(schema)
    if (!known.has(text)) known.set(text, stage)
  }
  if (known.size === 1) return { $schema: DRAFT, title, ...written[0]!.schema }
  const definitions = written.map(({ stage, schema }) => {
    const same = known.get(JSON.stringify(schema))!
    return [stage, stage === same ? { title: `${title}, in ${stage}`, ...schema } : { $ref: `#/$defs/${same}` }]
  })
  const kinds = [...known.values()].map((stage) => ({ $ref: `#/$defs/${stage}` }))
  return { $schema: DRAFT, title, type: 'object', anyOf: kinds, $defs: Object.fromEntries(definitions) }
}
