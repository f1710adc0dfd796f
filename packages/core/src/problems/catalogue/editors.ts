import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What the language server can't do, and what it finds in code. */
export const editorProblems = () => ({
  'rename-no-name': error("{given} can't be the name of a variable.", 'Use letters, digits and _, and no digit first.'),
  'rename-no-key': error("{given} can't be a key of the definition.", 'Use letters and digits, and a letter first.'),
  'rename-name-taken': error('{given} is the name of {path} already.', 'Choose another name.'),
  'rename-path-taken': error('{path} is there already.', 'Choose another key.'),
  'rename-other-group': error(
    '{given} must be a sibling of {path}: it must begin with {begin}.',
    'Move the setting in the definition instead.',
  ),
  'rename-not-found': error(
    '{path} does not stand in {file} as it is.',
    'It probably comes from another module: rename it there by hand.',
  ),
  'secret-elsewhere': error('{name} has another value in {file}: remove one of the two.', 'Nothing was changed.'),
  'secret-not-fixed': error('{name} refers to other values, or is broken.', 'Move it by hand. Nothing was changed.'),
  'entry-gone': error('{name} is not in {file} any more.', 'Nothing was changed.'),
  'finding-not-saved': error('{name} is not found at this place of the saved file.', 'Save the file first.'),
  'finding-stays': error('{name} stays in the code: {why}.', 'Nothing was changed.'),
  'secret-in-code': error('{name}, {shown}, stands in the code ({why}).', 'mappa move {name} moves it to an env file.'),
  'read-undeclared': error(
    'The code reads {name}, which no setting declares.',
    'Declare it; or say in a comment on its line or the one above that it is meant: mappa-ignore: <reason>',
    'Did you mean {near}? Otherwise declare it.',
  ),
  'setting-in-code': notice(
    '{name}, {shown}, stands in the code ({why}).',
    'mappa move {name} moves it to an env file.',
  ),
})

/** Makes a problem that an editor is told of. */
export const editorProblem = /* @__PURE__ */ problemFactory(editorProblems)
