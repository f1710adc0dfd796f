import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { ensurePrograms } from './machine.mjs'
import { packaged, root, setUp, step } from './steps.mjs'

setUp()
ensurePrograms()
packaged('Checking format and lint', '@biomejs/biome/bin/biome', ['ci', '--colors=off', '.'])
packaged('Checking types', 'typescript/bin/tsc', ['-p', '.'])
packaged('Checking that the core needs neither Node nor a page', 'typescript/bin/tsc', ['-p', 'src/core'])
packaged('Checking that what runs in pages needs no Node', 'typescript/bin/tsc', ['-p', 'src/browser'])
for (const example of ['dome-early', 'dome-api', 'night-desk']) {
  packaged(`Checking types of ${example}`, 'typescript/bin/tsc', ['-p', `examples/${example}`])
}
const files = ['', 'border/'].flatMap((folder) =>
  readdirSync(join(root, 'tests', folder)).flatMap((file) => (file.endsWith('.test.ts') ? [folder + file] : [])),
)
step('Running tests', process.execPath, [
  '--import',
  'tsx',
  '--test',
  '--test-reporter=spec',
  ...files.map((file) => `tests/${file}`),
])
