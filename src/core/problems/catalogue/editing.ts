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
  'edit-swallowed': error(
    '{name} was not written: the mistake on line {line} would make it part of another value.',
    'Mend line {line} first; mappa check says what is wrong with it.',
  ),
})
