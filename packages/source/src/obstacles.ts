/** What can keep a value where it stands in a file of some language. A language names the code alone. */
export const LANGUAGE_OBSTACLES = {
  'no-reads': "this file can't read a variable: --templates makes a template of it for mappa fill",
  docstring: 'it is documentation',
  pattern: 'it is a pattern that something is compared with, which must be constant',
  constant: 'it must be a constant expression there',
  heredoc: 'it is part of a text of several lines; move that out of the code by hand',
  dollar: 'it has a $ or a backslash, which mean something there',
  joined: 'it is one of several texts that are joined without an operator',
  macro: 'it is part of a macro or a pattern, which must be constant',
  borrowed: 'the code borrows it for as long as the program runs',
  'number-type': 'the type of the number is not clear from this file',
  output: 'an output of the notebook shows it: --clear-outputs removes such outputs',
  'not-written': "the reading of a variable can't be written there",
  unsure: 'the file would be read differently afterwards',
  'quoted-heredoc': 'the shell expands no variables there',
  'shell-quotes': 'it is quoted in a way in which the shell expands no variables',
  'image-secret': 'an image keeps what its build knows: give it to the container when it starts',
  'build-command': 'it is part of a command of the build',
  tag: 'it is part of a tagged template',
  'as-const': 'as const needs a literal value',
  member: 'it is a property name',
  enum: 'an enum member must be a constant',
  module: 'it is a module specifier',
  type: 'it is a type',
  'literal-type': 'its type is this exact literal, but a setting can have any value',
  escapes: 'it is part of a string with escapes',
  browser: 'the file goes to the browser, where everybody can read every value',
  syntax: "the file can't be parsed",
} as const

/** The code of such an obstacle. */
export type ObstacleCode = keyof typeof LANGUAGE_OBSTACLES
