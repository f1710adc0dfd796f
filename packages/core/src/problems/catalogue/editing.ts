import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What keeps an env file from being changed. */
export const editingProblems = () => ({
  'value-unwritable': error(
    'The value contains a NUL or an unpaired surrogate, which no env file can hold.',
    'Write binary data as base64 or hexadecimal digits.',
  ),
  'name-unwritable': error(
    '{name} is not a variable name: a name has letters, digits and _, and does not begin with a digit.',
    'Choose a name such as DOME_KEY.',
  ),
  'rename-taken': error(
    "{name} can't be renamed to {to}: there is already an entry of that name.",
    'Remove one of the two first.',
  ),
  'day-wrong': error('{day} is not a valid date.', 'Write it as 2026-11-23 (RFC 3339).'),
  'edit-swallowed': error(
    'The file was not changed: with the mistake on line {line}, changing {name} would change other values as well.',
    'Fix line {line} first; mappa check says what is wrong with it.',
  ),
})

/** Makes a problem with changing an env file. */
export const editingProblem = /* @__PURE__ */ problemFactory(editingProblems)
