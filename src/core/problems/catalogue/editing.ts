import { error } from './entry.ts'

/** What keeps an env file from being changed. */
export const editingProblems = () => ({
  'value-unwritable': error(
    'The value holds a NUL or half a character; no env file can hold that.',
    'Write binary data as base64 or hexadecimal digits.',
  ),
  'name-unwritable': error(
    '{name} is not the name of a variable: a name has letters, digits and _, and no digit first.',
    'Choose a name such as DOME_KEY.',
  ),
  'rename-taken': error(
    '{name} can not be renamed to {to}: there is an entry of that name already.',
    'Remove one of the two first.',
  ),
  'day-wrong': error('{day} is not a day of the calendar.', 'Write it as 2026-11-23 (RFC 3339).'),
  'edit-swallowed': error(
    'The file was not changed: with the mistake on line {line}, changing {name} would change other values as well.',
    'Fix line {line} first; mappa check says what is wrong with it.',
  ),
})
