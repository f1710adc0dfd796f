import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What is wrong with patterns of a definition. */
export const patternProblems = () => ({
  'pattern-explosive': error(
    'The pattern {pattern} of {path} is prone to catastrophic backtracking: on a text such as {text} it takes more than 50 million steps.',
    'Write it so that no text can be matched in many ways: (a+)+ matches no more than a+, and (a|ab)* no more than (ab?)*.',
  ),
  'pattern-unproved': error(
    'The pattern {pattern} of {path} refers to a group, and can not be proved to take less than 50 million steps on every text of {most} characters.',
    'Write it without the reference, add a lower maxLength, or put the rule into a check of your own.',
  ),
  'pattern-slow': error(
    'The pattern {pattern} of {path} takes more than 50 million steps on some text of {most} characters, the longest it is tried on.',
    'Add maxLength: {limit} or less, or write it so that no text can be matched in many ways.',
  ),
})

/** Makes a problem with a pattern of a definition. */
export const patternProblem = /* @__PURE__ */ problemFactory(patternProblems)
