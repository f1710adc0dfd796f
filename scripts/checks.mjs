import { together } from './steps.mjs'

const EXAMPLES = ['dome-early', 'dome-api', 'night-desk', 'stage-table']

const typesOf = (what, project) => ({ what, name: 'typescript-7/bin/tsc', words: ['-p', project] })

/** Format, lint, and whether there is dead code. */
export const LINT = [
  { what: 'Checking format and lint', name: '@biomejs/biome/bin/biome', words: ['ci', '--colors=off', '.'] },
  {
    what: 'Looking for code and packages that nothing uses',
    name: 'knip/bin/knip.js',
    words: ['--no-progress', '--no-config-hints'],
  },
]

/** The types of everything. The examples need what is built. */
const TYPES = [
  typesOf('Checking types', '.'),
  typesOf('Checking that the core needs neither Node nor a page', 'packages/mappa-settings/src/core'),
  typesOf('Checking that code for pages needs no Node', 'packages/mappa-settings/src/browser'),
  typesOf('Checking the page of the command', 'packages/mappa-cli/src/web'),
  ...EXAMPLES.map((example) => typesOf(`Checking types of ${example}`, `examples/${example}`)),
]

/** Checks format and lint. */
export function lint() {
  together(LINT)
}

/** Checks types. */
export function typecheck() {
  together(TYPES)
}
