const { createRequire } = process.getBuiltinModule('node:module')

/**
 * Parsing of arguments, and help. The package is CommonJS, and required rather than imported: importing it makes Node read each of
 * its files twice, once to find out what it exports, and every start would pay.
 */
export const { Argument, Command, CommanderError, Option } = createRequire(import.meta.url)(
  'commander',
) as typeof import('commander')
