import assert from 'node:assert/strict'
import { chmodSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { makeProject } from '@mappa/tests/support/project'
import { spell, VALUES } from '@mappa/tests/support/spellings'
import fc from 'fast-check'
import { EnvDocument } from 'mappa-settings/envfile'

/** What a stream can't be searched for: archives, and code that puts a text together. */
const OTHERS = /pieces|joined|over two lines|map$|address|^k\./

describe('mappa run --mask-output', () => {
  it('waits for the rest of a line no longer than a margin is wide', (context) => {
    const { root, mappa } = makeProject(context, {
      'settings.definition.json': JSON.stringify({
        settings: { dome: { key: { kind: 'string', description: 'Key of the dome', secret: true } } },
      }),
      '.env.development.local': 'DOME_KEY=q9Zr2mXw9LkT4vBn8PdS\n',
    })
    chmodSync(join(root, '.env.development.local'), 0o600)
    const code = "process.stdout.write('q9Zr2m' + ' '.repeat(300)); setTimeout(() => process.stdout.write('end'), 400)"
    const { stdout } = mappa(['run', '--mask-output', '--', process.execPath, '-e', code])
    assert.equal(stdout, `q9Zr2m${' '.repeat(300)}end`)
  })

  for (const [at, value] of fc.sample(VALUES, { numRuns: 4, seed: 20261204 }).entries())
    for (const chunk of [7, 1 << 16])
      it(`leaves no spelling of a secret open, in pieces of ${chunk} bytes: ${at + 1}`, (context) => {
        const { root, mappa } = makeProject(context, {
          'package.json': '{ "private": true }',
          'settings.definition.json': JSON.stringify({
            settings: { dome: { key: { kind: 'string', description: 'Key of the dome', secret: true } } },
          }),
          '.env.development.local': String(EnvDocument.from('').set('DOME_KEY', value)),
        })
        chmodSync(join(root, '.env.development.local'), 0o600)
        const files = spell(value).filter(([name]) => !OTHERS.test(name))
        files.forEach(([, content], index) => void writeFileSync(join(root, `in${index}`), content))
        writeFileSync(
          join(root, 'print.mjs'),
          `import { readFileSync, writeSync } from 'node:fs'
for (let at = 0; at < ${files.length}; at++) {
  const bytes = Buffer.concat([Buffer.from('\\n@@ ' + at + '\\n'), readFileSync('in' + at)])
  for (let from = 0; from < bytes.length; from += ${chunk}) writeSync(1, bytes, from, Math.min(${chunk}, bytes.length - from))
}
`,
        )
        const { stdout, status } = mappa(['run', '--mask-output', '--', process.execPath, 'print.mjs'])
        assert.equal(status, 0)
        const parts = stdout.split(/\n@@ \d+\n/).slice(1)
        assert.equal(parts.length, files.length, stdout)
        const open = files.filter((_, index) => !parts[index]!.includes('(secret, ')).map(([name]) => name)
        assert.deepEqual(open, [], JSON.stringify(value))
      })
})
