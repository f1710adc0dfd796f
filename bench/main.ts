import { benchRunAndCompare } from './commands.ts'
import { benchFill, benchMask } from './fill.ts'
import { printTable } from './measure.ts'
import { benchPages } from './pages.ts'
import { benchRead } from './read.ts'
import { benchResolve } from './resolve.ts'
import { benchSee } from './see.ts'
import { benchCheck, benchStart } from './start.ts'
import { benchSurvey } from './survey.ts'
import { benchTypes } from './types.ts'

const survey = benchSurvey(15)
const types = benchTypes(7)
const masked = benchMask(15)

// Each row holds a piece of work against a floor of the machine, measured in turn within one run.
const fine = [
  printTable('Reading', benchRead(25)),
  printTable('Resolving', benchResolve(41)),
  printTable('Starting', await benchStart(61)),
  printTable('Commands', [...benchCheck(41), ...benchRunAndCompare(41)]),
  printTable('Filling', await benchFill(15)),
  masked >= 100,
  printTable('Pages', benchPages(61)),
  printTable('Surveying', survey.rows),
  await benchSee(),
  survey.megabytes <= 300,
  types <= 1000,
].every(Boolean)

console.log(`\nThe survey of the large tree held ${Math.round(survey.megabytes)} MB at most (limit: 300).`)
console.log(`A definition of 300 settings adds ${Math.round(types)} ms to the compiler (limit: 1000).`)
console.log(`Masked output passes at ${Math.round(masked)} MB/s (limit: at least 100).`)
console.log(fine ? '\nAll within their limits.' : '\nSome are beyond their limits.')
process.exitCode = fine ? 0 : 1
