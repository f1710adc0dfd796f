import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What keeps settings from being shown on a page or in a report. */
export const viewProblems = () => ({
  'editor-not-found': error(
    'The editor {editor} was not found in PATH. Programs within the repository are not started.',
    'Check its name, or give its absolute path.',
  ),
  'port-wrong': error('{port} is no port.', 'Give a number from 1 to 65535, or omit --port to take a free one.'),
  'port-not-free': error(
    "Port {port} can't be used: {reason}.",
    'Omit --port to take a free one, or end the program that uses it.',
  ),
  'view-not-refreshed': error(
    'The page shows what was there before: reading the settings again failed unexpectedly ({reason}).',
    'Save one of the files again; if that does not help, start mappa view again.',
  ),
  'report-in-the-way': error(
    '{file} exists, and is no report of mappa view.',
    'Nothing was written. Name another file, or remove that one.',
  ),
})

/** Makes a problem with showing settings. */
export const viewProblem = /* @__PURE__ */ problemFactory(viewProblems)
