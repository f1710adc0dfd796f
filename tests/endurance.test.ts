import { describe, it } from 'node:test'
import { LONG_RUNS } from './endurance/all.ts'
import { needs } from './support/programs.ts'

// The same runs as npm run endurance, some of each. A failed one throws with the try that failed.
describe('what is tried many times', () => {
  for (const { name, promise, short, programs = [], run } of LONG_RUNS)
    it(`${name}: ${promise} (${short} times)`, { concurrency: false, ...needs(...programs) }, () =>
      run(short, 20261126),
    )
})
