import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** What can be wrong with public values that are to be handed to a page. */
export const publicValueProblems = () => ({
  'public-not-data': error(
    "The value of {path} can't be serialized for a page: it contains a function, an instance of a class, or itself.",
    'Convert it in the page rather than in the definition.',
  ),
  'public-is-private': error(
    '{name} is public, but has the value of {other}, which is {what}.',
    'Give {name} a value of its own. If everybody may read {other}, give that public: true instead.',
  ),
  'public-refers-to-private': error(
    '{name} is public, but refers to {other}, which is {what}.',
    'Remove the reference. If everybody may read {other}, give that public: true instead.',
  ),
  'allow-in-page-wrong': error(
    'The option allowInPage names {name}, and {reason}.',
    'Name private settings only, by their variable names. A secret is never allowed.',
    'Did you mean {near}?',
  ),
  'pages-without-place': error(
    'No page in {directory} has a placeholder for runtime settings.',
    'Build the page with mappa-settings/vite, or put this into its head: {element}',
  ),
})

/** Makes a problem with handing public values to a page. */
export const publicValueProblem = /* @__PURE__ */ problemFactory(publicValueProblems)
