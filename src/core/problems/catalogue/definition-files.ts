import { error } from './entry.ts'

/** What can be wrong with the file of a definition. Programs that bring their definition along never meet these. */
export const definitionFileProblems = () => ({
  'definition-not-found': error(
    'No definition of settings was found. Looked for {looked}.',
    'mappa init writes one from what the project has. One with another name is named in package.json, under "mappa", as "settings".',
  ),
  'definition-file-missing': error('The definition {file}, named by {from}, does not exist.', 'Name an existing file.'),
  'definition-failed': error(
    "The definition {file} can't be loaded: {reason}",
    'Fix the file; it should do nothing but call defineSettings.',
  ),
  'definition-not-json': error(
    'The definition {file} is not valid JSON: {reason}.',
    'Fix the file here. Every text and every name needs double quotes, and the last member has no comma after it.',
  ),
  'definition-unsettled': error(
    'The definition {file} never finishes loading: a top-level await never settles.',
    'Remove the await; the file should do nothing but call defineSettings.',
  ),
  'definition-not-exported': error(
    'The definition {file} exports {found} where a definition is needed.',
    'Write: export default defineSettings({ ... }).',
  ),
  'setting-kind-unknown': error(
    '{path} has the kind {kind}, which does not exist. The kinds are {kinds}.',
    'Use one of them.',
    'Did you mean {near}?',
  ),
})
