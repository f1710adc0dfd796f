import { together } from './steps.mjs'

const EXAMPLES = ['dome-early', 'dome-api', 'night-desk', 'stage-table']

/** Format, lint, and whether there is dead code. */
export const LINT = [
  { what: 'Checking format and lint', name: '@biomejs/biome/bin/biome', words: ['ci', '--colors=off', '.'] },
  {
    what: 'Looking for code and packages that nothing uses',
    name: 'knip/bin/knip.js',
    words: ['--no-progress', '--no-config-hints'],
  },
  { what: 'Counting names and shapes, which may only get better', words: ['scripts/shape.mjs'] },
]

/** The types of everything, which need what is built: the packages and what tests them, the examples, and the reference made of them. */
const TYPES = [
  { what: 'Checking types', name: 'typescript-7/bin/tsc', words: ['-b'] },
  ...EXAMPLES.map((example) => ({
    what: `Checking types of ${example}`,
    name: 'typescript-7/bin/tsc',
    words: ['-p', `examples/${example}`],
  })),
  { what: 'Comparing the API reference with the docstrings', script: ['scripts/api.mjs'], words: ['--verify'] },
]

/** Checks format and lint. */
export function lint() {
  together(LINT)
}

/** Checks types. */
export function typecheck() {
  together(TYPES)
}
