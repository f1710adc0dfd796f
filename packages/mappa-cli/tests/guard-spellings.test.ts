import assert from 'node:assert/strict'
import { chmodSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { makeProject } from '@mappa/tests/support/project'
import { spell, VALUES } from '@mappa/tests/support/spellings'
import fc from 'fast-check'
import { EnvDocument } from 'mappa-settings/envfile'

const COUNT = 12

describe('guard', () => {
  for (const [at, value] of fc.sample(VALUES, { numRuns: COUNT, seed: 20261202 }).entries())
    it(`finds a value however it is written: ${at + 1}`, (context) => {
      const files = spell(value).map(([name, content]) => [`out/${name}`, content] as const)
      const { root, mappa, git } = makeProject(context, {
        'package.json': '{ "private": true }',
        'settings.definition.json': JSON.stringify({
          settings: { dome: { key: { kind: 'string', description: 'Key of the dome', secret: true } } },
        }),
        '.gitignore': 'node_modules\n.env*.local\n',
        '.env.production.local': String(EnvDocument.from('').set('DOME_KEY', value)),
        ...Object.fromEntries(files),
      })
      chmodSync(join(root, '.env.production.local'), 0o600)
      git('init', '-q')
      git('add', '-A')
      git('commit', '-qm', 'first')
      for (const [words, code] of [
        [[], 'secret-in-tracked'],
        [['--history'], 'secret-committed'],
      ] as const) {
        const { stdout } = mappa(['guard', '--json', ...words])
        const found = new Set(
          JSON.parse(stdout).problems.flatMap((each: { code: string; file: string }) =>
            each.code === code ? each.file : [],
          ),
        )
        const missed = files.flatMap(([file]) => (found.has(file) ? [] : file))
        assert.deepEqual(missed, [], JSON.stringify(value))
      }
    })

  it('finds it wherever in a file it begins', (context) => {
    const values = fc.sample(VALUES, { numRuns: 5, seed: 20261203 })
    const files = values.flatMap((value, at) =>
      spell(value).flatMap(([name, content]) =>
        typeof content === 'string' && !name.endsWith('.map')
          ? Array.from(
              { length: 17 },
              (_, shift) => [`out/${at}/${shift}/${name}`, `${'-'.repeat(shift)}\n${content}`] as const,
            )
          : [],
      ),
    )
    const { mappa } = makeProject(context, {
      'package.json': '{ "private": true }',
      'settings.definition.json': JSON.stringify({
        settings: Object.fromEntries(
          values.map((_, at) => [`k${at}`, { kind: 'string', description: 'A key', secret: true }]),
        ),
      }),
      '.env.production.local': values
        .reduce((document, value, at) => document.set(`K${at}`, value), EnvDocument.from(''))
        .toString(),
      ...Object.fromEntries(files),
    })
    const { stdout } = mappa(['guard', '--json', 'out'])
    const found = new Set(
      JSON.parse(stdout).problems.map(({ file, name }: { file: string; name: string }) => `${file} ${name}`),
    )
    const missed = files.filter(([file]) => !found.has(`${file} K${file.split('/')[1]}`)).map(([file]) => file)
    assert.ok(files.length > 3000)
    assert.deepEqual(missed, [])
  })

  it('finds no value that is not there', (context) => {
    const values = fc.sample(VALUES, { numRuns: 2 * COUNT, seed: 7 })
    const files = values
      .slice(COUNT)
      .flatMap((value, at) => spell(value).map(([name, content]) => [`out/${at}/${name}`, content] as const))
    const { mappa } = makeProject(context, {
      'package.json': '{ "private": true }',
      'settings.definition.json': JSON.stringify({
        settings: Object.fromEntries(
          values.slice(0, COUNT).map((_, at) => [`k${at}`, { kind: 'string', description: 'A key', secret: true }]),
        ),
      }),
      '.env.production.local': values
        .slice(0, COUNT)
        .reduce((document, value, at) => document.set(`K${at}`, value), EnvDocument.from(''))
        .toString(),
      ...Object.fromEntries(files),
    })
    const { stdout } = mappa(['guard', '--json', 'out'])
    const told = JSON.parse(stdout).problems.filter((each: { file: string }) => each.file?.startsWith('out/'))
    assert.deepEqual(told, [])
  })
})
