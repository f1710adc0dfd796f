// Tries each framework of docs/frameworks.md as npm installs it: npm run framework-table [-- PART OF A NAME]
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CELLS } from './framework-table/cells.ts'
import { Installed } from './framework-table/installed.ts'
import { TARGETS } from './framework-table/targets.ts'
import { root as repository } from './steps.mjs'

const home = mkdtempSync(join(tmpdir(), 'mappa-frameworks-'))
process.on('exit', () => rmSync(home, { recursive: true, force: true }))

function run(program: string, words: readonly string[], cwd: string): string {
  const { status, stdout, stderr } = spawnSync(program, words, { cwd, encoding: 'utf8' })
  if (status !== 0) throw new Error(`${program} ${words.join(' ')} fails:\n${stdout}${stderr}`)
  return stdout
}

const packages = ['mappa-settings', 'mappa-cli'].map((name) => {
  const words = ['pack', '--ignore-scripts', '--silent', '--pack-destination', home]
  return join(home, run('npm', words, join(repository, 'packages', name)).trim())
})
const wanted = TARGETS.filter(({ name }) => name.toLowerCase().includes((process.argv[2] ?? '').toLowerCase()))
const versions = [...new Set(wanted.flatMap(({ node }) => node ?? []))]
writeFileSync(join(home, 'package.json'), '{}')
for (const each of versions)
  run(
    'npm',
    ['install', '--no-audit', '--no-fund', `node-${each}@npm:node-${process.platform}-${process.arch}@${each}`],
    home,
  )

let failed = 0
const tried = process.argv[3]
for (const target of wanted) {
  const installed = new Installed(target, join(home, 'projects'), packages, home)
  for (const [cell, attempt] of Object.entries(CELLS)) {
    if (tried !== undefined && tried !== cell) continue
    installed.reset()
    try {
      const reason = await attempt(installed)
      console.log(`${target.name}, ${cell}: ${reason === undefined ? 'passed' : `not applicable: ${reason}`}`)
    } catch (error) {
      failed++
      console.log(`${target.name}, ${cell}: FAILED\n${error instanceof Error ? error.message : error}`)
    }
  }
}
console.log(failed === 0 ? 'No cell has failed.' : `${failed} cells have failed.`)
process.exitCode = failed === 0 ? 0 : 1
