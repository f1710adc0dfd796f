import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What keeps a finding from being moved. */
export const movingProblems = () => ({
  'findings-not-chosen': error(
    'No findings were named, and there is no terminal to ask at.',
    'Name them by their numbers or names as mappa survey lists them, or add --all.',
  ),
  'finding-unknown': error(
    'The survey has no finding {asked}.',
    'Name a finding by its number or its name; mappa survey lists them.',
    'Did you mean {near}?',
  ),
  'one-finding-needed': error(
    '{option} is for one finding, and {count} were named.',
    'Name one finding, or leave {option} out.',
  ),
  'path-unusable': error(
    "{asked} can't be the path of a new setting: {reason}.",
    'A path is names separated by dots, such as dome.key.',
  ),
  'setting-optional': error(
    "{path} is optional, but the code needs a value, and {file} can't be changed safely to make {name} required.",
    'Remove optional: true from {path} yourself, and run the command again.',
  ),
  'definition-not-editable': error(
    '{file} has no place where {path} can be added safely.',
    'Add {path} to it yourself, with the kind {kind}, and run the command again.',
  ),
})

/** Makes a problem with moving a finding. */
export const movingProblem = /* @__PURE__ */ problemFactory(movingProblems)
