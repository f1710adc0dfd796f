const { createRequire } = process.getBuiltinModule('node:module')

/**
 * The packages that commands are built with. They are CommonJS, and are required rather than imported: importing
 * them makes Node read each of their files twice, once to find out what it exports, and every start would pay.
 */
const require = createRequire(import.meta.url)

/** Parsing of arguments, and help. */
export const { Command, CommanderError, Option } = require('commander') as typeof import('commander')

/** Differences between texts; loaded only by what shows one. */
export function loadDiff(): typeof import('diff') {
  return require('diff') as typeof import('diff')
}
