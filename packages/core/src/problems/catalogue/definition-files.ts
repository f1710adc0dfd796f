import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

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
  'setting-function-unknown': error(
    'setting.{asked} does not exist. The functions of setting are {functions}.',
    'Use one of them.',
    'Did you mean setting.{near}?',
  ),
  'definition-not-json': error(
    'The definition {file} is not valid JSON: {reason}.',
    'Fix the file here. Every text and every name needs double quotes, and the last member has no comma after it.',
  ),
  'definition-needs-loader': error(
    "Node {node} can't load the definition {file}: {reason}.",
    'Install mappa-cli, which brings a loader; or use Node 22.18 or later and TypeScript whose types can be stripped. In production, start a loader before the program (node --import LOADER), or name a built .js file in package.json, under "mappa", as "settings".',
  ),
  'command-does-not-fit': error(
    'mappa-cli {found} is installed beside mappa-settings {own}, and the two do not fit together.',
    'Install both in the same version: npm install --save-dev mappa-cli@{own}.',
  ),
  'definition-changed': error(
    "The definition {file} has changed, and it can't be read again without mappa-cli.",
    'Install mappa-cli as a development dependency, or start the bundler again.',
  ),
  'definition-unwatched': notice(
    'The definition {file} imports {modules}, so it may depend on files that are not watched: when they change, nothing happens until the next start.',
    'Import what it needs by relative paths, or start again after such a change.',
  ),
  'definition-unsettled': error(
    'The definition {file} never finishes loading: a top-level await never settles.',
    'Remove the await; the file should do nothing but call defineSettings.',
  ),
  'definition-not-exported': error(
    'The definition {file} exports {found} where a definition is needed.',
    'Write: export default defineSettings({ ... }).',
  ),
})

/** Makes a problem with the file of a definition. */
export const definitionFileProblem = /* @__PURE__ */ problemFactory(definitionFileProblems)
