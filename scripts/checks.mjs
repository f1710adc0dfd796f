import { packaged } from './steps.mjs'

const EXAMPLES = ['dome-early', 'dome-api', 'night-desk', 'stage-table']

/** Checks format and lint, and that there is no dead code. */
export function lint() {
  packaged('Checking format and lint', '@biomejs/biome/bin/biome', ['ci', '--colors=off', '.'])
  packaged('Looking for code and packages that nothing uses', 'knip/bin/knip.js', [
    '--no-progress',
    '--no-config-hints',
  ])
}

/** Checks the types of everything. The examples need what is built. */
export function typecheck() {
  packaged('Checking types', 'typescript/bin/tsc', ['-p', '.'])
  packaged('Checking that the core needs neither Node nor a page', 'typescript/bin/tsc', [
    '-p',
    'packages/mappa/src/core',
  ])
  packaged('Checking that code for pages needs no Node', 'typescript/bin/tsc', ['-p', 'packages/mappa/src/browser'])
  packaged('Checking the page of the command', 'typescript/bin/tsc', ['-p', 'packages/mappa-cli/src/web'])
  for (const example of EXAMPLES)
    packaged(`Checking types of ${example}`, 'typescript/bin/tsc', ['-p', `examples/${example}`])
}
