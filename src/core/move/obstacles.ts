import { type Detail, fill } from '../problems/catalogue/entry.ts'

/** Everything that can keep a value where it stands. Nothing else in the project writes a sentence about it. */
const OBSTACLES = {
  tag: 'the function before it takes the template apart',
  'as-const': 'as const needs a value that stands in the code',
  member: 'it is the name of a member',
  enum: 'the member of an enum has to be a constant',
  module: 'it names a module',
  type: 'it is a type',
  escapes: 'it is part of a text with escapes',
  outside: 'it lies outside the project',
  language: 'Mappa changes JavaScript and TypeScript only',
  encoding: 'the file is not UTF-8 text',
  syntax: 'the file can not be understood',
  test: 'it stands in a test; --in {file} moves it all the same',
  browser: 'the file goes to the browser, where everybody can read every value',
  'browser-secret': 'the file goes to the browser, where everybody can read every value: let a server do what needs it',
  'not-public': '{name} is not public, and the file goes to the browser: say public: true if everybody may read it',
  worker:
    'the file runs in a worker, which has neither files nor Node: hand it the value as its platform does, or do that work on a server',
  mobile:
    'the file goes into an app on a device, where everybody can read every value: a server has to do what needs it',
  'config-typescript':
    'the file is read by Node as it is, and the module with the settings is TypeScript: set the value in the environment of that tool',
  'literal-type': 'its type says exactly this text, and a setting can be any',
  'type-check': 'the type check of the project would fail: {message}',
  elsewhere: 'it stands outside of code that can be changed',
  'other-value': '{name} has another value in {place}',
  'never-used': '{name} has another value in {place}, so this one is never used',
  rules: '{name} does not allow it, as mappa set would say',
  kind: '{name} is a {kind}',
  'no-secret': '{name} is no secret, and this looks like one',
} as const

/**
 * Why a value stays where it is, in words.
 *
 * @param details what the sentence needs
 * @example
 * ```ts
 * obstacleText('kind', { name: 'DOME_MOTORS', kind: 'boolean' }) // 'DOME_MOTORS is a boolean'
 * ```
 */
export function obstacleText(code: keyof typeof OBSTACLES, details: Readonly<Record<string, Detail>> = {}): string {
  return fill(OBSTACLES[code], details)
}
