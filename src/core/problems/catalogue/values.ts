import { error, notice } from './entry.ts'

/** Where a value belongs, as the hints of `missing` and `empty` say it in their word `put`. */
export const WHERE_TO_PUT = {
  secret:
    'Add {name}=... to {local}, which stays on this machine and out of git, or set it in the process environment.',
  other: 'Add {name}=... to {file} (or to {shared} for all stages), or set it in the process environment.',
}

/** What can be wrong with the value of a setting. */
export const valueProblems = {
  missing: error('{name} is not set. {description}.', '{put}', 'Rename {near} if that was meant. Otherwise: {put}'),
  empty: error('{name} is empty in {from}, and a value is required. {description}.', '{put}'),
  'placeholder-left': error(
    '{name} still has the placeholder of the example file.',
    'Put the real value in its place, or take the line out.',
  ),
  'empty-hides-value': notice(
    '{name} is empty in {from}, which hides the value in {hidden}.',
    'Take it out of {from} if the other value was meant.',
  ),
  'rotation-due': notice(
    '{name} was set on {day} and should have been replaced by {due}.',
    'Make a new one where it is issued, then write it with mappa set {name}.',
  ),
  'rotation-unknown': notice(
    '{name} is to be replaced from time to time ({rotate}), and nothing says when it was set.',
    'Write it with mappa set {name}, which notes the day; or write # set and the day, such as # set {today}, in a line above it.',
  ),
  'name-near': notice(
    '{name} is not a setting of this project; {meant} is.',
    'Rename {name} to {meant}, or add {name} to the definition if it is another one.',
  ),
  'not-integer': error(
    '{name} must be a whole number; it is {shown}.',
    'Write digits only, with a - before them if need be: no unit, no separator, no leading zero, no fraction.',
  ),
  'integer-inexact': error(
    '{name} is {shown}, a whole number too large to be held exactly.',
    'Use a number from -9007199254740991 to 9007199254740991, or declare the setting as a string.',
  ),
  'not-number': error(
    '{name} must be a number; it is {shown}.',
    'Write it as in JSON: 12, -0.5 or 1.5e3, without a unit, a separator or a leading zero.',
  ),
  'number-too-large': error('{name} is {shown}, beyond what a number can hold.', 'Use a number up to about 1.79e308.'),
  'not-boolean': error(
    '{name} must be true or false; it is {shown}.',
    'Write true or false (yes and no, on and off, 1 and 0 do as well).',
  ),
  'not-port': error(
    '{name} must be a port, a whole number from 1 to 65535; it is {shown}.',
    'Write the number of the port alone, such as 4100.',
  ),
  'not-url': error(
    '{name} must be a whole address; it is {shown}.',
    'Write it with its scheme and its host, such as https://dome.fernhollow.example/.',
    'Write the scheme as well, such as {near}.',
  ),
  'not-in-enum': error(
    '{name} must be one of {choices}; it is {shown}.',
    'Write one of them, in just that case.',
    'Did you mean {near}?',
  ),
  'below-minimum': error('{name} must be at least {limit}; it is {shown}.', 'Write {limit} or a larger number.'),
  'not-above': error('{name} must be more than {limit}; it is {shown}.', 'Write a number larger than {limit}.'),
  'above-maximum': error('{name} must be at most {limit}; it is {shown}.', 'Write {limit} or a smaller number.'),
  'not-below': error('{name} must be less than {limit}; it is {shown}.', 'Write a number smaller than {limit}.'),
  'not-multiple': error('{name} must be a multiple of {of}; it is {shown}.', 'Write a multiple of {of}.'),
  'too-short': error(
    '{name} must have at least {limit} characters; it has {length}.',
    'Check that the whole value was copied.',
  ),
  'too-long': error(
    '{name} must have at most {limit} characters; it has {length}.',
    'Check that nothing else was copied along with the value.',
  ),
  'pattern-differs': error(
    '{name} does not fit the pattern {pattern}; it is {shown}.',
    'Give it a value that fits {pattern}, the rule of the definition.',
  ),
}
