import assert from 'node:assert/strict'
import { Ajv2020 } from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import { definitionFromJson, environmentLayer, isDefinition, resolveSettings, SettingsError } from 'mappa-settings'
import { definitionSchema, environmentSchema, exampleFile, typesFile } from 'mappa-settings/derive'
import { EnvDocument } from 'mappa-settings/envfile'
import ts from 'typescript'
import { type LongRun, makeRandom, type Random } from './long-run.ts'

const KINDS = [
  'string',
  'integer',
  'number',
  'boolean',
  'port',
  'url',
  'email',
  'duration',
  'size',
  'uuid',
  'ip',
  'hostname',
  'path',
]
const TEXTS = [
  '1',
  '4100',
  'true',
  'no',
  'https://dome.fernhollow.example',
  'fern@fernhollow.example',
  '2s',
  '8MB',
  'x',
  '-7',
  '127.0.0.1',
  '',
]

/** A definition, what is derived from it, and what loading says, agree with one another. */
export const definitions: LongRun = {
  name: 'definitions',
  promise: 'a random definition agrees with its schemas, its example and its types',
  short: 40,
  long: 10_000,
  run(count, seed) {
    const random = makeRandom(seed)
    const ajv = new Ajv2020({ strict: false })
    ;(addFormats as unknown as (ajv: Ajv2020) => void)(ajv)
    const fitsSchema = ajv.compile(definitionSchema() as object)
    for (let at = 0; at < count; at++) {
      const data = randomDefinition(random)
      const text = JSON.stringify(data)
      const definition = made(data)
      if (definition === null) continue
      assert.ok(fitsSchema(data), `${text} ${JSON.stringify(fitsSchema.errors)}`)
      assertExample(definition, text)
      assertTypes(definition, text)
      assertEnvironment(definition, ajv, random, text)
    }
  },
}

function randomDefinition(random: Random): object {
  const settings: Record<string, object> = {}
  for (let group = 1 + random.below(3); group > 0; group--) {
    const members: Record<string, object> = {}
    for (let key = 1 + random.below(3); key > 0; key--) members[`k${key}`] = randomSetting(random)
    settings[`g${group}`] = members
  }
  return random.below(3) === 0 ? { prefix: 'FERN_', settings } : { settings }
}

function randomSetting(random: Random): object {
  const kind = random.of(KINDS)
  const option = (odds: number, value: object) => (random.below(odds) === 0 ? value : {})
  const isNumber = kind === 'integer' || kind === 'number'
  return {
    kind,
    description: random.of(['A dome', 'It\'s "the" sky', 'Größe */ 🔭', 'Line\nbreak']),
    ...option(3, { optional: true }),
    ...option(4, { secret: true }),
    ...option(5, { public: true }),
    ...option(4, { allowEmpty: true }),
    ...(isNumber ? option(2, { minimum: random.below(50) - 25 }) : {}),
    ...(isNumber ? option(2, { maximum: random.below(5000) }) : {}),
    ...(isNumber ? option(4, { default: random.below(60) }) : {}),
    ...(kind === 'string' ? option(2, { minLength: random.below(4) }) : {}),
    ...(kind === 'boolean' ? option(2, { default: true }) : {}),
    ...option(6, { formerly: [random.of(['OLD', 'OLDER'])] }),
  }
}

/** `null` for one that is refused, with problems that say why. */
function made(data: object) {
  try {
    const definition = definitionFromJson(data)
    assert.ok(isDefinition(definition))
    return definition
  } catch (error) {
    assert.ok(error instanceof SettingsError && error.problems.length > 0, String(error))
    return null
  }
}

type Definition = NonNullable<ReturnType<typeof made>>

/** The example is read without problems, has every name, and no check lets its placeholders pass. */
function assertExample(definition: Definition, text: string): void {
  const example = EnvDocument.from(exampleFile(definition))
  assert.deepEqual(example.problems, [], text)
  for (const { name } of definition.settings) assert.ok(String(example).includes(`${name}=`), text)
  const needed = definition.settings.filter((each) => !each.optional && each.default === undefined)
  const environment = Object.fromEntries(example.entries.map(({ name, value }) => [name, String(value)]))
  const { problems } = resolveSettings(definition, { layers: [environmentLayer(environment)] })
  assert.ok(needed.length === 0 || problems.length > 0, text)
}

/** The types are TypeScript. */
function assertTypes(definition: Definition, text: string): void {
  const source = ts.createSourceFile(
    'settings.env.d.ts',
    typesFile(definition, 'settings.definition.json'),
    ts.ScriptTarget.ES2022,
  )
  const { parseDiagnostics } = source as unknown as { parseDiagnostics: readonly ts.Diagnostic[] }
  assert.deepEqual(
    parseDiagnostics.map(({ messageText }) => messageText),
    [],
    text,
  )
}

/** What loading takes, the schema takes as well; what it refuses, the schema refuses where it has every rule. */
function assertEnvironment(definition: Definition, ajv: Ajv2020, random: Random, text: string): void {
  const schema = environmentSchema(definition) as object
  const validate = ajv.compile(schema)
  for (let at = 0; at < 4; at++) {
    const names = definition.settings
      .flatMap(({ name, formerly }) => [name, ...formerly])
      .filter(() => random.below(4) > 0)
    const environment = Object.fromEntries(names.map((name) => [name, random.of(TEXTS)]))
    const { values, problems } = resolveSettings(definition, { layers: [environmentLayer(environment)] })
    const fits = validate(environment)
    const isWhole = !JSON.stringify(schema).includes('Not expressed')
    if (isWhole || values !== null)
      assert.equal(
        fits,
        values !== null,
        `${text} ${JSON.stringify(environment)} ${JSON.stringify([problems, validate.errors])}`,
      )
  }
  ajv.removeSchema(schema)
}
