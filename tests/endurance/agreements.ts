import assert from 'node:assert/strict'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Definition } from '@mappa/core/definition/definition'
import { hasPlace } from '@mappa/core/definition/former-value'
import { definitionFromJson } from '@mappa/core/definition/json'
import { selectProgram } from '@mappa/core/definition/programs'
import { environmentSchema } from '@mappa/core/derive/environment-schema'
import { valuesSchema } from '@mappa/core/derive/schema'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { Secret } from '@mappa/core/secret/secret'
import { type Inspection, inspectSettings } from '@mappa/node/load/inspect'
import { loadSettings } from '@mappa/node/load/load'
import { Ajv2020 } from 'ajv/dist/2020.js'
import { checkStages } from '../../packages/mappa-cli/src/analysis/check/checked-stages.ts'
import { compareStages } from '../../packages/mappa-cli/src/analysis/compare/stages.ts'
import { exportStage } from '../../packages/mappa-cli/src/analysis/export/export-stage.ts'
import { json } from '../../packages/mappa-cli/src/analysis/export/formats/json.ts'
import { buildEnvironment } from '../../packages/mappa-cli/src/analysis/run/environment.ts'
import { toOverview } from '../../packages/mappa-cli/src/views/overview.ts'
import { stageStory } from '../../packages/mappa-cli/src/views/story.ts'
import { type LongRun, makeRandom, type Random } from './long-run.ts'

/** Kinds with options that a setting can have, and what a stage can have of its own. */
const KINDS: readonly (readonly [kind: string, options: readonly object[], inStage: readonly object[]])[] = [
  ['string', [{}, { minLength: 2 }, { default: '' }, { pattern: '^[a-z]+$' }], [{ default: 'fog' }, { maxLength: 3 }]],
  ['integer', [{}, { minimum: 0, default: 4 }, { multipleOf: 2 }], [{ default: 8 }, { maximum: 9 }]],
  ['number', [{}, { exclusiveMaximum: 10, default: 0.5 }], [{ minimum: -1 }]],
  ['boolean', [{}, { default: true }], [{ default: false }]],
  ['port', [{ default: 4100 }, {}], [{ minimum: 1024 }]],
  ['url', [{}, { default: 'https://dome.fernhollow.example/' }], [{ default: 'http://127.0.0.1:4200' }]],
  ['choice', [{ enum: ['drill', 'open'] }, { enum: ['drill', 'open'], default: 'open' }], [{ enum: ['drill'] }]],
  ['duration', [{}, { default: '15m', maximum: '1h' }], [{ default: '1s' }]],
  ['size', [{ default: '8MB' }, {}], [{ maximum: '64kB' }]],
  ['list', [{}, { items: { kind: 'port' }, default: [4101] }, { items: 'duration', maxItems: 2 }, { default: [] }], []],
  ['json', [{}, { default: { star: ['Vega'] } }], [{ default: 1 }]],
  ['base64', [{ bytes: 3 }, { default: 'AAEC' }], []],
  ['dateTime', [{}, { default: '2026-11-23T18:30:00Z' }], []],
]
const TEXTS = [
  ...['', 'fog', 'a b', '4', '8', '-1', '0.5', 'true', 'no', 'drill', 'open', '4100', '70000', '15m', '2h', '8MB'],
  ...['https://dome.fernhollow.example/', 'a,b', '80, 4101', '1s,2s,3s', '[1]', '{"a":1,"a":2}', 'AAEC', 'Zm9n!'],
  ...['2026-11-23T18:30:00Z', '2026-02-30T00:00:00Z', "it's", '"quoted"', '#4', '${G1_K1}', '${NONE:-fog}', '$'],
]
/** One for all: making it takes ten times as long as compiling a schema. */
const ajv = new Ajv2020({ strict: false })
const STAGES = { drill: {}, open: {}, staging: { like: 'open' }, 'preview-*': { like: 'staging' } }
const ALL_STAGES = ['drill', 'open', 'staging', 'preview-7']

const PROGRAMS = ['desk', 'dome-api']

/** Whoever says something of a setting says the same: loading, commands, what a child gets, and schemas. */
export const agreements: LongRun = {
  name: 'agreements',
  promise: 'everything that tells a value, its origin or a problem tells the same',
  short: 100,
  long: 50_000,
  run(count, seed) {
    const random = makeRandom(seed)
    const root = mkdtempSync(join(tmpdir(), 'mappa-agreements-'))
    try {
      let complete = 0
      for (let at = 0; at < count; at++) if (tryOne(random, root)) complete++
      assert.ok(complete * 20 > count, `only ${complete} of ${count} were complete`)
    } finally {
      rmSync(root, { recursive: true })
    }
  },
}

/** @returns true for settings that can be used */
function tryOne(random: Random, root: string): boolean {
  const data = makeDefinition(random)
  const definition = build(data)
  if (definition === null) return false
  const files = ['.env', '.env.local', ...ALL_STAGES.flatMap((stage) => [`.env.${stage}`, `.env.${stage}.local`])]
  const texts = files.map((file) => [file, makeFile(definition, random)] as const)
  for (const [file, text] of texts) writeFileSync(join(root, file), text)
  const environment = Object.fromEntries(
    definition.settings.flatMap(({ name }) => (random.below(8) === 0 ? [[name, random.of(TEXTS)]] : [])),
  ) as Record<string, string>
  const what = JSON.stringify({ data, texts, environment })
  const program = random.of([undefined, ...PROGRAMS])
  const own = selectProgram(definition, program, 'the test')
  const stages = ALL_STAGES.map((stage) => inspectSettings(own, { stage, root, environment }))
  try {
    const checked = checkStages(stages)
    const table = compareStages(checked)
    assertPage(checked, toOverview(checked, { project: 'fern' }))
    for (const [column, inspection] of stages.entries()) {
      assertLoading(definition, inspection, { root, environment, ...(program === undefined ? {} : { program }) })
      assertViews({ ...inspection, problems: checked[column]!.problems }, table, column)
      assertChild(own, inspection)
      assertSchemas(own, inspection)
    }
  } catch (error) {
    throw new Error(`${error instanceof Error ? error.message : String(error)}\n${what}`, { cause: error })
  }
  return stages.some(({ values }) => values !== null)
}

function makeDefinition(random: Random): object {
  const settings: Record<string, Record<string, object>> = {}
  for (let group = 1 + random.below(2); group > 0; group--) {
    const members: Record<string, object> = {}
    for (let key = 1 + random.below(3); key > 0; key--) members[`k${key}`] = makeSetting(random)
    settings[`g${group}`] = members
  }
  const paths = Object.entries(settings).flatMap(([group, members]) =>
    Object.keys(members).map((key) => `${group}.${key}`),
  )
  const form = random.of(['ascending', 'exactlyOne', 'atLeastOne', 'allOrNone', 'none', 'none'])
  const rules = form === 'none' || paths.length < 2 ? [] : [{ [form]: paths.slice(0, 2) }]
  return { stages: STAGES, settings, rules, programs: PROGRAMS }
}

function makeSetting(random: Random): object {
  const [kind, options, inStage] = random.of(KINDS)
  const own = random.of(options)
  const hasDefault = 'default' in own
  const option = (odds: number, value: object) => (random.below(odds) === 0 ? value : {})
  const rules =
    inStage.length > 0 && random.below(2) === 0 ? { [random.of(Object.keys(STAGES))]: random.of(inStage) } : {}
  return {
    kind,
    description: 'A dome',
    ...own,
    ...(hasDefault
      ? {}
      : option(2, { optional: true, ...option(3, { requiredIn: [random.of(Object.keys(STAGES))] }) })),
    ...(hasDefault || Object.values(rules).some((each) => 'default' in each)
      ? {}
      : option(4, { secret: true, ...option(2, { acceptFormerFor: 'P7D' }) })),
    ...option(4, { for: [random.of(PROGRAMS)] }),
    ...(kind === 'choice' ? {} : option(5, { allowEmpty: true })),
    stages: rules,
  }
}

/** `null` for one that is refused, as random ones can be. */
function build(data: object): Definition | null {
  try {
    return definitionFromJson(data)
  } catch (error) {
    assert.ok(error instanceof SettingsError, String(error))
    return null
  }
}

function makeFile({ settings }: Definition, random: Random): string {
  const quote = (text: string) => random.of([text, `'${text.replaceAll("'", '')}'`, `"${text.replaceAll('"', '')}"`])
  return settings
    .flatMap(({ name }) => (random.below(4) === 0 ? [`${name}=${quote(random.of(TEXTS))}\n`] : []))
    .join('')
}

/** A program gets what was found, or is refused for the same reasons. */
function assertLoading(definition: Definition, inspection: Inspection, place: object): void {
  const { stage, problems, settings } = inspection
  const codes = problems.filter(({ severity, code }) => severity === 'error' && code !== 'value-shared')
  try {
    const values = loadSettings(definition, { ...place, stage, onNotices: () => {} })
    assert.deepEqual(codes, [])
    for (const { declaration, value } of settings.filter((each) => hasPlace(each.declaration))) {
      const loaded = declaration.keys.reduce<unknown>((group, key) => (group as Record<string, unknown>)[key], values)
      assert.deepEqual(loaded instanceof Secret ? loaded.reveal() : loaded, value, declaration.path)
      const former = settings.find((each) => each.declaration.formerOf === declaration.path)?.value
      const all = former === undefined ? [value] : [value, former]
      if (loaded instanceof Secret) assert.deepEqual(loaded.revealAll(), all, declaration.path)
    }
  } catch (error) {
    if (!(error instanceof SettingsError)) throw error
    assert.deepEqual(
      error.problems.filter(({ severity }) => severity === 'error').map(({ code, name }) => [code, name]),
      codes.map(({ code, name }) => [code, name]),
    )
  }
}

/** `show` and `compare` tell the value, the layer and the problems. */
function assertViews(inspection: Inspection, table: ReturnType<typeof compareStages>, column: number): void {
  for (const [row, setting] of inspection.settings.entries()) {
    const { declaration, origin, text, valid } = setting
    const story = stageStory(declaration, setting, inspection)
    const cell = table.rows[row]!.cells[column]!
    assert.equal(cell.state, story.state, declaration.path)
    assert.deepEqual(cell.origin, origin)
    const inUse = story.layers.filter(({ state }) => state === 'in use').map(({ id }) => id)
    const isEmpty = story.verdict.endsWith('which counts as missing.')
    if (!isEmpty) assert.deepEqual(inUse, origin === null ? [] : [origin.layer], declaration.path)
    assert.equal(text === undefined, ['unset', 'missing'].includes(story.state) || (!valid && text === undefined))
    const errors = inspection.problems.filter((each) => each.setting === declaration.path && each.severity === 'error')
    assert.deepEqual(
      [...cell.problems],
      errors.map(({ code }) => code),
    )
    assert.deepEqual(
      story.problems.filter(({ severity }) => severity === 'error').map(({ code }) => code),
      errors.map(({ code }) => code),
    )
  }
}

/** The page tells the value, where it comes from, and the problems of each setting in each stage; no secret is in its data. */
function assertPage(stages: readonly Inspection[], page: ReturnType<typeof toOverview>): void {
  const rows = page.groups.flatMap((group) => group.rows)
  assert.equal(rows.length, stages[0]!.settings.length)
  for (const [column, { settings, problems, stage }] of stages.entries()) {
    const view = page.stages[column]!
    const listCodes = (severity: string) =>
      problems.filter((each) => each.severity === severity).map(({ code }) => code)
    assert.deepEqual(
      [view.name, view.errors, view.notices],
      [stage, listCodes('error').length, listCodes('notice').length],
    )
    for (const { declaration, origin, text, masked } of settings) {
      const cell = rows.find(({ path }) => path === declaration.path)!.cells[column]!
      assert.deepEqual(cell.origin, origin, declaration.path)
      assert.equal(cell.from === null, origin === null, declaration.path)
      const own = problems.filter(({ setting }) => setting === declaration.path)
      const worst = own.some(({ severity }) => severity === 'error') ? 'error' : (own[0]?.severity ?? null)
      assert.equal(cell.severity, worst, declaration.path)
      const isHidden = masked && text !== undefined && text.length > 8
      assert.ok(!isHidden || !JSON.stringify(cell).includes(text), declaration.path)
    }
  }
}

/** What `run` and `export` hand on is what a child loads as the same values. */
function assertChild(definition: Definition, inspection: Inspection): void {
  const { stage, settings, values } = inspection
  const given = buildEnvironment(inspection, {}, true)
  for (const { declaration, text } of settings) assert.equal(given[declaration.name], text, declaration.name)
  if (values === null) return
  const { content } = exportStage(inspection, json, { configMap: 'x', secret: 'y' }, true)
  const exported = JSON.parse(content as string) as Record<string, string>
  const { MAPPA_STAGE, MAPPA_FILLED: _, ...passed } = given
  assert.equal(MAPPA_STAGE, stage)
  assert.deepEqual(exported, passed)
  const child = loadSettings(definition, { stage, root: tmpdir(), environment: exported, onNotices: () => {} })
  assert.deepEqual(reveal(child), reveal(values))
}

/** Values as plain data, with secrets as they are. */
function reveal(values: unknown): unknown {
  if (values instanceof Secret) return reveal(values.reveal())
  if (Array.isArray(values)) return values.map(reveal)
  const isGroup =
    typeof values === 'object' && values !== null && !(values instanceof Date) && !(values instanceof Uint8Array)
  return isGroup ? Object.fromEntries(Object.entries(values).map(([key, value]) => [key, reveal(value)])) : values
}

/** A schema takes what loading takes, and refuses what it refuses where it leaves no rule out. */
function assertSchemas(definition: Definition, { stage, settings, values, problems }: Inspection): void {
  const texts = Object.fromEntries(
    settings.flatMap(({ declaration, text }) => (text === undefined ? [] : [[declaration.name, text]])),
  )
  const schema = environmentSchema(definition, { stage })
  const fits = isValid(schema, texts)
  const isRefused = problems.some(({ severity }) => severity === 'error')
  if (values !== null) assert.ok(fits, JSON.stringify(ajv.errors))
  else if (
    isRefused &&
    !JSON.stringify(schema).includes('Not expressed') &&
    problems.every(({ code }) => isOfValue(code))
  )
    assert.ok(!fits, JSON.stringify([texts, problems.map(({ code }) => code)]))
  if (values === null) return
  const asJson = (_key: string, each: unknown) =>
    each instanceof Uint8Array ? Buffer.from(each).toString('base64') : each
  const data: unknown = JSON.parse(JSON.stringify(reveal(values), asJson))
  assert.ok(isValid(valuesSchema(definition, { stage }), data), JSON.stringify([data, ajv.errors]))
}

function isValid(schema: object, data: unknown): boolean {
  const isFine = ajv.validate(schema, data)
  ajv.removeSchema(schema)
  return isFine
}

/** False for what a text alone does not show: references, and what stands in files. */
const isOfValue = (code: string) =>
  !/^(?:reference|value-shared|holds|quote|text-after|command|missing|empty)/.test(code)
