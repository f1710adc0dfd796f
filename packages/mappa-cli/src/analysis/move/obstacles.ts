import { type Detail, fill } from '@mappa/core/problems/catalogue/entry'
import { LANGUAGE_OBSTACLES } from '@mappa/source/obstacles'

/** Everything that can keep a value where it stands, beside what its language says. */
const OBSTACLES = {
  ...LANGUAGE_OBSTACLES,
  outside: 'it is outside the project',
  language: "files of this kind can't read a variable: --templates makes templates of them for mappa fill",
  'template-there': '{file} is there already',
  encoding: 'the file is not UTF-8 text',
  test: 'it is in a test; --in {file} moves it anyway',
  'browser-secret':
    'the file goes to the browser, where everybody can read every value: do the work that needs it on a server',
  'not-public': '{name} is not public, and the file goes to the browser: add public: true if everybody may read it',
  worker:
    'the file runs in a worker, which has neither files nor Node: pass the value the way its platform does, or do that work on a server',
  mobile:
    'the file goes into an app on a device, where everybody can read every value: do the work that needs it on a server',
  'config-typescript':
    'the file is run by Node directly, but the module with the settings is TypeScript: set the value in the environment of that tool',
  'type-check': 'the type check of the project would fail: {message}',
  elsewhere: 'it is outside code that can be changed',
  'other-value': '{name} has another value in {place}',
  'never-used': '{name} has another value in {place}, so this one is never used',
  'fallbacks-differ':
    'the code falls back to different values for {name}, and a setting has one: decide which, by hand',
  rules: '{name} does not accept it; mappa set says why',
  kind: '{name} is a {kind}',
  'no-secret': '{name} is not a secret, but this looks like one',
} as const

/** Why a value stays where it is: a code, and what its sentence needs. Codes are compared; the sentence is made when it is shown. */
export interface Obstacle {
  readonly code: keyof typeof OBSTACLES
  readonly details: Readonly<Record<string, Detail>>
}

/** Names an obstacle. */
export function makeObstacle(code: Obstacle['code'], details: Obstacle['details'] = {}): Obstacle {
  return { code, details }
}

/**
 * Says what an obstacle is.
 *
 * @example
 * ```ts
 * describeObstacle(makeObstacle('kind', { name: 'DOME_MOTORS', kind: 'boolean' })) // 'DOME_MOTORS is a boolean'
 * ```
 */
export function describeObstacle({ code, details }: Obstacle): string {
  return fill(OBSTACLES[code], details)
}
