import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { makeProject } from '@mappa/tests/support/project'
import { Ajv2020 } from 'ajv/dist/2020.js'
import { definitionFromJson } from 'mappa-settings'
import { definitionSchema } from 'mappa-settings/derive'

const PORT = '"port": { "kind": "port", "description": "Port", "default": 4100 }'

/** A definition, and where its problems are: line, column and code. */
const WRONG: Readonly<Record<string, readonly [text: string, places: readonly string[], says?: RegExp]>> = {
  'an empty file': ['', ['1:1 definition-not-json'], /it is empty/],
  'a file of blanks': ['\n \n', ['1:1 definition-not-json'], /it is empty/],
  'a brace that is not closed': ['{ "settings": {', ['1:16 definition-not-json'], /closing brace/],
  'a comma too many': [
    `{\n  "settings": { ${PORT}, }\n}`,
    ['2:85 definition-not-json'],
    /comma before it is one too many/,
  ],
  'a comma too few': ['{ "settings": {}\n  "stages": [] }', ['2:3 definition-not-json'], /a comma is expected/],
  'a comment': ['{\n  // why\n  "settings": {} }', ['2:3 definition-not-json'], /no comments/],
  'single quotes': ["{ 'settings': {} }", ['1:3 definition-not-json'], /double quotes/],
  'text behind it': ['{ "settings": {} } {}', ['1:20 definition-not-json'], /should end here/],
  'an unknown kind': [
    '{ "settings": {\n  "a": { "kind": "prt", "description": "x" } } }',
    ['2:10 setting-kind-unknown'],
  ],
  'an unknown option': [
    '{ "settings": {\n  "a": { "kind": "port", "description": "x",\n    "defalt": 1 } } }',
    ['3:5 setting-option-unknown'],
  ],
  'a default of another kind': [
    '{ "settings": { "dome": {\n  "a": { "kind": "port", "description": "x",\n    "default": "no" } } } }',
    ['3:5 setting-default-wrong'],
  ],
  'no description': ['{ "settings": { "dome": {\n  "a": { "kind": "port" } } } }', ['2:3 setting-description-missing']],
  'a value that is no setting': ['{ "settings": {\n  "a": 5 } }', ['2:3 definition-not-tree']],
  'an unknown option of the definition': [
    `{ "settings": { ${PORT} },\n  "stagse": [] }`,
    ['2:3 definition-option-unknown'],
  ],
  'a wrong prefix': [`{ "settings": { ${PORT} },\n  "prefix": 5 }`, ['2:3 prefix-wrong']],
  'several at once': [
    '{ "settings": {\n  "a": { "kind": "port", "description": "x", "defalt": 1 },\n  "b": { "kind": "url" } } }',
    ['2:46 setting-option-unknown', '3:3 setting-description-missing'],
  ],
}

describe('a definition in JSON', () => {
  for (const [name, [text, places, says = /./]] of Object.entries(WRONG)) {
    it(`tells where there is ${name}`, (context) => {
      const project = makeProject(context, { 'settings.definition.json': text })
      const { stdout, status } = project.mappa(['check', '--json'])
      const { problems } = JSON.parse(stdout) as {
        problems: { line: number; column: number; code: string; message: string; file: string }[]
      }
      assert.deepEqual(
        problems.map(({ line, column, code }) => `${line}:${column} ${code}`),
        places,
      )
      for (const { file, message } of problems) {
        assert.equal(file, 'settings.definition.json')
        assert.match(message, says)
      }
      assert.equal(status, 1)
    })
  }
})

describe('the schema of a definition in JSON', () => {
  const validate = new Ajv2020({ strict: false }).compile(definitionSchema())
  const about = { description: 'x' }
  const valid: Readonly<Record<string, unknown>> = {
    'every kind with nothing but what it needs': {
      a: { kind: 'string', ...about },
      b: { kind: 'choice', enum: ['east', 'west'], ...about },
      c: { kind: 'list', items: { kind: 'port' }, ...about },
      d: { kind: 'list', items: 'port', ...about },
    },
    'limits as texts of the kind': { a: { kind: 'duration', minimum: '5m', default: '15m', ...about } },
    'rules of a stage': {
      a: { kind: 'string', secret: true, stages: { production: { pattern: '^open-' } }, ...about },
    },
    groups: { dome: { door: { kind: { kind: 'string', ...about } } } },
    conditions: {
      dome: { motors: { kind: 'boolean', default: false, ...about } },
      a: { kind: 'string', optional: true, requiredIf: { 'dome.motors': true }, rotateEvery: 'P28D', ...about },
    },
  }
  for (const [name, settings] of Object.entries(valid)) {
    it(`accepts ${name}`, () => {
      assert.ok(definitionFromJson({ settings }).settings.length > 0)
      assert.ok(validate({ $schema: './schema.json', settings }), JSON.stringify(validate.errors))
    })
  }

  const told = new Set([
    'setting-kind-unknown',
    'setting-option-unknown',
    'setting-description-missing',
    'definition-option-unknown',
    'prefix-wrong',
    'definition-not-tree',
  ])
  for (const [name, [text, places]] of Object.entries(WRONG)) {
    if (!places.every((each) => told.has(each.split(' ')[1]!))) continue
    it(`refuses ${name}`, () => assert.ok(!validate(JSON.parse(text))))
  }
  it('refuses a wrong type', () => {
    for (const option of [{ secret: 'yes' }, { minLength: '5' }, { requiredIn: 'production' }, { name: 5 }])
      assert.ok(!validate({ settings: { a: { kind: 'string', ...about, ...option } } }), JSON.stringify(option))
  })

  it('comes with the package, and is written for programs that have none', (context) => {
    const path = new URL(import.meta.resolve('mappa-settings/settings.definition.schema.json'))
    const shipped = readFileSync(path, 'utf8')
    assert.deepEqual(JSON.parse(shipped), JSON.parse(JSON.stringify(definitionSchema())))
    const project = makeProject(context, { 'settings.definition.json': `{ "settings": { ${PORT} } }` })
    assert.equal(project.mappa(['write', 'definition-schema']).status, 0)
    const written = readFileSync(join(project.root, 'settings.definition.schema.json'), 'utf8')
    const { $comment, ...schema } = JSON.parse(written) as { readonly $comment: string }
    assert.match($comment, /^Generated by mappa write /)
    assert.deepEqual(schema, JSON.parse(shipped))
  })
})
