import { entry } from './entry.ts'

/** `shown` is a value that went through `displayValue`. */
type Shown = { name: string; shown: string }

/** What can be wrong with the value of a setting. */
export const valueProblems = {
  missing: entry<{ name: string; description: string; put: string; near: string | null }>(
    'error',
    ({ name, description }) => `${name} is not set. ${description.replace(/\.$/, '')}.`,
    ({ put, near }) => `${near === null ? '' : `Rename ${near} if that was meant, or else: `}${put}`,
  ),
  empty: entry<{ name: string; description: string; from: string; put: string }>(
    'error',
    ({ name, description, from }) =>
      `${name} is empty in ${from}, and a value is required. ${description.replace(/\.$/, '')}.`,
    ({ put }) => put,
  ),
  'empty-hides-value': entry<{ name: string; from: string; hidden: string }>(
    'notice',
    ({ name, from, hidden }) => `${name} is empty in ${from}, which hides the value in ${hidden}.`,
    ({ from }) => `Take it out of ${from} if the other value was meant.`,
  ),
  'name-near': entry<{ name: string; meant: string }>(
    'notice',
    ({ name, meant }) => `${name} is not a setting of this project; ${meant} is.`,
    ({ name, meant }) => `Rename ${name} to ${meant}, or add ${name} to the definition if it is another one.`,
  ),
  'not-integer': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} must be a whole number; it is ${shown}.`,
    () => 'Write digits only, with a - before them if need be: no unit, no separator, no leading zero, no fraction.',
  ),
  'integer-inexact': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} is ${shown}, a whole number too large to be held exactly.`,
    () => 'Use a number from -9007199254740991 to 9007199254740991, or declare the setting as a string.',
  ),
  'not-number': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} must be a number; it is ${shown}.`,
    () => 'Write it as in JSON: 12, -0.5 or 1.5e3, without a unit, a separator or a leading zero.',
  ),
  'number-too-large': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} is ${shown}, beyond what a number can hold.`,
    () => 'Use a number up to about 1.79e308.',
  ),
  'not-boolean': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} must be true or false; it is ${shown}.`,
    () => 'Write true or false (yes and no, on and off, 1 and 0 do as well).',
  ),
  'not-port': entry<Shown>(
    'error',
    ({ name, shown }) => `${name} must be a port, a whole number from 1 to 65535; it is ${shown}.`,
    () => 'Write the number of the port alone, such as 4100.',
  ),
  'not-url': entry<Shown & { guess: string | null }>(
    'error',
    ({ name, shown }) => `${name} must be a whole address; it is ${shown}.`,
    ({ guess }) =>
      guess === null
        ? 'Write it with its scheme and its host, such as https://dome.fernhollow.example/.'
        : `Write the scheme as well, such as ${guess}.`,
  ),
  'not-in-enum': entry<Shown & { choices: readonly string[]; near: string | null }>(
    'error',
    ({ name, shown, choices }) => `${name} must be one of ${choices.join(', ')}; it is ${shown}.`,
    ({ near, choices }) => (near === null ? `Write one of them, such as ${choices[0]}.` : `Did you mean ${near}?`),
  ),
  'below-minimum': entry<Shown & { limit: number; exclusive: boolean }>(
    'error',
    ({ name, shown, limit, exclusive }) =>
      `${name} must be ${exclusive ? 'more than' : 'at least'} ${limit}; it is ${shown}.`,
    ({ limit, exclusive }) => `Write a number ${exclusive ? 'above' : 'from'} ${limit}${exclusive ? '' : ' up'}.`,
  ),
  'above-maximum': entry<Shown & { limit: number; exclusive: boolean }>(
    'error',
    ({ name, shown, limit, exclusive }) =>
      `${name} must be ${exclusive ? 'less than' : 'at most'} ${limit}; it is ${shown}.`,
    ({ limit, exclusive }) => `Write a number ${exclusive ? 'below' : 'up to'} ${limit}.`,
  ),
  'not-multiple': entry<Shown & { of: number }>(
    'error',
    ({ name, shown, of }) => `${name} must be a multiple of ${of}; it is ${shown}.`,
    ({ of }) => `Write a multiple of ${of}.`,
  ),
  'too-short': entry<Shown & { limit: number; length: number }>(
    'error',
    ({ name, limit, length }) => `${name} must have at least ${limit} characters; it has ${length}.`,
    () => 'Check that the whole value was copied.',
  ),
  'too-long': entry<Shown & { limit: number; length: number }>(
    'error',
    ({ name, limit, length }) => `${name} must have at most ${limit} characters; it has ${length}.`,
    () => 'Check that nothing else was copied along with the value.',
  ),
  'pattern-differs': entry<Shown & { pattern: string }>(
    'error',
    ({ name, shown, pattern }) => `${name} does not fit the pattern ${pattern}; it is ${shown}.`,
    ({ pattern }) => `Give it a value that fits ${pattern}, the rule of the definition.`,
  ),
}
