import { error } from './entry.ts'

/** What keeps a finding from being moved. */
export const movingProblems = () => ({
  'findings-not-chosen': error(
    'No findings were named, and there is nobody at a terminal to ask.',
    'Name them by their numbers or names as mappa survey lists them, or say --all.',
  ),
  'finding-unknown': error(
    'The survey found nothing that is called {asked}.',
    'Name a finding by its number or its name; mappa survey lists them.',
    'Did you mean {near}?',
  ),
  'one-finding-needed': error(
    '{option} is for one finding, and {count} were named.',
    'Name one finding, or leave {option} out.',
  ),
  'path-unusable': error(
    '{asked} can not be the path of a new setting: {reason}.',
    'A path is a row of names with dots between them, such as dome.key.',
  ),
  'setting-optional': error(
    '{path} may be missing, and the code needs a value: {file} can not be changed safely so that {name} is required.',
    'Take optional: true out of {path} by hand, and call the command again.',
  ),
  'definition-not-editable': error(
    '{file} has no place where {path} can be added safely.',
    'Add {path} to it by hand, with the kind {kind}, and call the command again.',
  ),
})
