import { problemFactory } from '../factory.ts'
import { error } from './entry.ts'

/** Packages that can't be chosen. */
export const packagesProblems = () => ({
  'workspaces-missing': error(
    'No package.json or pnpm-workspace.yaml at or above this directory declares packages.',
    'Omit --package, or run the command within such a repository.',
  ),
  'package-unknown': error(
    'No package is called {asked}, and none lies there.',
    'Name a package by its name or its directory; * stands for any characters.',
    'Did you mean {near}?',
  ),
  'packages-to-choose': error('{name} can be meant for several packages: {names}.', 'Name one of them with --package.'),
})

/** Makes a problem with choosing packages. */
export const packagesProblem = /* @__PURE__ */ problemFactory(packagesProblems)
