import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, it } from 'node:test'
import { problemsPage } from '../scripts/write-problems.ts'
import { allProblems } from '../src/core/problems/catalogue/all.ts'
import { version } from '../src/version.ts'
import { REPOSITORY } from './support/project.ts'

const read = (file: string) => readFileSync(join(REPOSITORY, file), 'utf8')
const filesIn = (folder: string) =>
  readdirSync(join(REPOSITORY, folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts'))
    .map((file) => `${folder}/${file}`)
const IMPORT = /(?:from|import)\s*\(?\s*["']([^"']+)["']/g
/** Built files use double quotes for what they import, and texts that hold code of others do not. */
const BUILT_IMPORT = /(?:from|import)\s*\(?\s*"([^"]+)"/g

/** Everything that a built file imports, its own chunks followed. */
function importsOf(file: string, seen = new Set<string>()): Set<string> {
  const found = new Set<string>()
  if (seen.has(file)) return found
  seen.add(file)
  for (const [, specifier] of read(file).matchAll(BUILT_IMPORT)) {
    if (!specifier!.startsWith('.')) found.add(specifier!)
    else for (const inner of importsOf(join(file, '..', specifier!), seen)) found.add(inner)
  }
  return found
}

describe('the house', () => {
  it('has library entries that import no third-party module', () => {
    assert.deepEqual([...importsOf('dist/index.js')], [])
    assert.deepEqual([...importsOf('dist/node.js')], [])
    assert.deepEqual([...importsOf('dist/browser.js')], [])
    assert.deepEqual([...importsOf('dist/testing.js')], [])
  })

  it('has one version', () => {
    assert.equal(version, (JSON.parse(read('package.json')) as { version: string }).version)
  })

  it('lets data flow downwards only', () => {
    const below = {
      core: [],
      browser: ['core'],
      node: ['core'],
      cli: ['core', 'node'],
      vite: ['core', 'node'],
      bundler: ['core', 'node'],
      testing: ['core'],
    }
    for (const [room, others] of Object.entries(below)) {
      const reached = [room, ...others]
      for (const file of filesIn(`src/${room}`)) {
        for (const [, specifier] of read(file).matchAll(IMPORT)) {
          if (!specifier!.startsWith('.')) continue
          const target = join(file, '..', specifier!).split('/')[1]!
          assert.ok(reached.includes(target) || target === 'version.ts', `${file} imports ${specifier}`)
        }
      }
    }
  })

  it('documents every problem, and has none that nobody reports', () => {
    assert.equal(read('docs/problems.md'), problemsPage())
    const code = filesIn('src')
      .filter((file) => !file.includes('/catalogue/'))
      .map(read)
      .join('\n')
    for (const name of Object.keys(allProblems())) assert.ok(code.includes(`'${name}'`), name)
  })

  it('prints in one place, and shows values in one', () => {
    for (const file of filesIn('src')) {
      const code = read(file).replace(/\/\*[\s\S]*?\*\/|\/\/.*/g, '')
      const prints = /\bconsole\.|process\.std(out|err)\.write/.test(code)
      // Programs that load their settings have no command to print for them.
      assert.equal(prints && !file.includes('cli/render/') && file !== 'src/node/load.ts', false, file)
    }
  })
})
