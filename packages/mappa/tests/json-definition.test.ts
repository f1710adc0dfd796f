import assert from 'node:assert/strict'
import { describe, it } from 'node:test'
import { makeProject } from '../../../tests/support/project.ts'

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
