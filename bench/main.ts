import { printTable } from './measure.ts'
import { benchRead } from './read.ts'
import { benchCheck, benchStart } from './start.ts'
import { benchSurvey } from './survey.ts'

const survey = benchSurvey(15)

// Each row holds a piece of work against a floor of the machine, measured in turn within one run.
const fine = [
  printTable('Reading', benchRead(25)),
  printTable('Starting', await benchStart(61)),
  printTable('Commands', benchCheck(41)),
  printTable('Surveying', survey.rows),
  survey.megabytes <= 400,
].every(Boolean)

console.log(`\nThe survey of the large tree held ${Math.round(survey.megabytes)} MB at most (limit: 400).`)
console.log(fine ? '\nAll within their limits.' : '\nSome are beyond their limits.')
process.exitCode = fine ? 0 : 1
