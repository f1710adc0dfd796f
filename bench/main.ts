import { benchRunAndCompare } from './commands.ts'
import { benchFill, benchMask } from './fill.ts'
import { growthOfFiles, growthOfPackages, growthOfSettings, growthOfWatchers } from './growth.ts'
import { benchGuard } from './guard.ts'
import { printFigures, printTable } from './measure.ts'
import { benchPages } from './pages.ts'
import { benchRead } from './read.ts'
import { writeReport } from './report.ts'
import { benchResolve } from './resolve.ts'
import { benchSee } from './see.ts'
import { sizes } from './sizes.ts'
import { benchCheck, benchStart } from './start.ts'
import { benchSurvey } from './survey.ts'
import { benchTypes } from './types.ts'

/** A fifth of the runs with `--quick`: for a first look, or for a machine that is slow. */
const isQuick = process.argv.includes('--quick')
const runs = (all: number) => (isQuick ? Math.max(3, Math.round(all / 5)) : all)

const survey = benchSurvey(runs(5))
const guard = benchGuard(runs(15))

// Each row holds a piece of work against a floor of the machine, measured in turn within one run.
const fine = [
  printTable('Reading', benchRead(runs(25))),
  printTable('Resolving', benchResolve(runs(41))),
  printTable('Starting', await benchStart(runs(61))),
  printTable('Commands', [...benchCheck(runs(41)), ...benchRunAndCompare(runs(41))]),
  printTable('Filling', await benchFill(runs(15))),
  printTable('Pages', benchPages(runs(61))),
  printTable('Surveying', survey.rows),
  printTable('Guarding', guard.rows),
  await benchSee(runs),
  printFigures([
    { what: 'memory of a survey of the large tree', found: survey.megabytes, limit: 300, unit: 'MB' },
    {
      what: 'what a definition of 300 settings adds to the compiler',
      found: benchTypes(runs(7)),
      limit: 1000,
      unit: 'ms',
    },
    ...sizes(),
    { what: 'searching sources for 20 secrets', found: guard.speed, limit: 50, unit: 'MB/s', atLeast: true },
    { what: 'mappa guard --history of 10,000 commits', found: guard.history, limit: 3000, unit: 'ms' },
    { what: 'masked output', found: benchMask(runs(15)), limit: 100, unit: 'MB/s', atLeast: true },
  ]),
].every(Boolean)
console.log(fine ? '\nAll within their limits.' : '\nSome are beyond their limits.')
process.exitCode = fine ? 0 : 1

// npm run performance: how cost grows as well, and all of it into docs/performance.md.
if (process.argv.includes('--write'))
  writeReport([growthOfSettings(), growthOfPackages(), growthOfFiles(), growthOfWatchers()], isQuick)
