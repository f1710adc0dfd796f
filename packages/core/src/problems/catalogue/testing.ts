import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What can be wrong with the values that a test gives. */
export const testingProblems = () => ({
  'test-value-unknown': error(
    'The test gives a value for {asked}, but there is no such setting.',
    'Write the path of a setting, such as dome.key.',
    'Did you mean {near}?',
  ),
})

/** Makes a problem with the settings of a test. */
export const testingProblem = /* @__PURE__ */ problemFactory(testingProblems)
