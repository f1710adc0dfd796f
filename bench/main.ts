import { benchRunAndCompare } from './commands.ts'
import { benchFill, benchMask } from './fill.ts'
import { growthOfFiles, growthOfPackages, growthOfSettings, growthOfWatchers } from './growth.ts'
import { printFigures, printTable } from './measure.ts'
import { benchPages } from './pages.ts'
import { benchRead } from './read.ts'
import { writeReport } from './report.ts'
import { benchResolve } from './resolve.ts'
import { benchSee } from './see.ts'
import { benchCheck, benchStart } from './start.ts'
import { benchSurvey } from './survey.ts'
import { benchTypes } from './types.ts'

const survey = benchSurvey(5)

// Each row holds a piece of work against a floor of the machine, measured in turn within one run.
const fine = [
  printTable('Reading', benchRead(25)),
  printTable('Resolving', benchResolve(41)),
  printTable('Starting', await benchStart(61)),
  printTable('Commands', [...benchCheck(41), ...benchRunAndCompare(41)]),
  printTable('Filling', await benchFill(15)),
  printTable('Pages', benchPages(61)),
  printTable('Surveying', survey.rows),
  await benchSee(),
  printFigures([
    { what: 'memory of a survey of the large tree', found: survey.megabytes, limit: 300, unit: 'MB' },
    { what: 'what a definition of 300 settings adds to the compiler', found: benchTypes(7), limit: 1000, unit: 'ms' },
    { what: 'masked output', found: benchMask(15), limit: 100, unit: 'MB/s', atLeast: true },
  ]),
].every(Boolean)
console.log(fine ? '\nAll within their limits.' : '\nSome are beyond their limits.')
process.exitCode = fine ? 0 : 1

// npm run performance: how cost grows as well, and all of it into docs/performance.md.
if (process.argv.includes('--write'))
  writeReport([growthOfSettings(), growthOfPackages(), growthOfFiles(), growthOfWatchers()])
