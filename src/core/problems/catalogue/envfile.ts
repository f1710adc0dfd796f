import { entry } from './entry.ts'

type Named = { name: string }

/** What can be wrong in the text of an env file. No sentence here repeats any text but names. */
export const envfileProblems = {
  'spaces-unquoted': entry<Named>(
    'notice',
    ({ name }) => `The value of ${name} has spaces and no quotes; it was read up to the end of the line.`,
    ({ name }) => `Put quotes around it, since a shell reads only the first word: ${name}='...'.`,
  ),
  'spaces-around-equals': entry<Named>(
    'notice',
    ({ name }) => `There are spaces around the = of ${name}; they were passed over.`,
    ({ name }) => `Take them out, since a shell does not read the line this way: ${name}=...`,
  ),
  'backslash-unquoted': entry<Named>(
    'notice',
    ({ name }) => `The value of ${name} has a backslash and no quotes; the backslash was kept.`,
    ({ name }) => `Put single quotes around it, since a shell drops the backslash: ${name}='...'.`,
  ),
  'quote-in-value': entry<Named>(
    'notice',
    ({ name }) => `The value of ${name} has a quote in it but does not begin with one; the quote was kept.`,
    ({ name }) =>
      `Put quotes of the other sort around the whole value, since a shell drops the quote: ${name}="it's" or ${name}='"so"'.`,
  ),
  'shell-character': entry<Named & { character: string }>(
    'notice',
    ({ name, character }) => `The value of ${name} has ${character} and no quotes; it was kept.`,
    ({ name }) => `Put single quotes around the value, since the character has a meaning to a shell: ${name}='...'.`,
  ),
  'dollar-kept': entry<Named>(
    'notice',
    ({ name }) => `The value of ${name} has a $ with no name after it; the $ was kept.`,
    ({ name }) => `Put single quotes around the value to say that $ is just a character: ${name}='...'.`,
  ),
  'carriage-return': entry<Named>(
    'notice',
    ({ name }) => `The value of ${name} has a carriage return in the middle of the line; it was kept.`,
    () => 'Save the file with line feeds at the ends of lines, if the carriage return was meant to end the line.',
  ),
  'name-twice': entry<Named & { line: number; holds: number }>(
    'notice',
    ({ name, line, holds }) => `${name} stands on line ${line} and again on line ${holds}; line ${holds} holds.`,
    ({ line }) => `Take one of them out; line ${line} has no effect.`,
  ),
  'quote-open': entry<Named & { quote: string }>(
    'error',
    ({ name, quote }) => `The value of ${name} begins with ${quote} and no ${quote} closes it.`,
    ({ quote }) => `Add the closing ${quote} at the end of the value.`,
  ),
  'text-after-quote': entry<Named & { quote: string; opened: number | null }>(
    'error',
    ({ name, quote, opened }) =>
      `There is text after the ${quote} that closes the value of ${name}${opened === null ? '' : `, opened on line ${opened}`}.`,
    ({ quote }) =>
      quote === '"'
        ? 'Write \\" for a double quote inside the value, or begin a comment with a space and #.'
        : 'Put double quotes around the value if it has a single quote in it, or begin a comment with a space and #.',
  ),
  'key-unquoted': entry<Named>(
    'error',
    ({ name }) => `The value of ${name} is a key of several lines and has no quotes.`,
    ({ name }) => `Put a quote before -----BEGIN and one behind the last -----: ${name}='-----BEGIN ... END ...-----'.`,
  ),
  'command-not-run': entry<Named & { form: string }>(
    'error',
    ({ name, form }) => `The value of ${name} has ${form} in it. Commands are never run from an env file.`,
    ({ name }) =>
      `If the characters are meant as they stand, put single quotes around the value: ${name}='...'. If the output of the command is meant, run it and write down what it prints.`,
  ),
  'colon-for-equals': entry<Named>(
    'error',
    ({ name }) => `${name} is followed by : where = belongs.`,
    ({ name }) => `Write ${name}=... instead.`,
  ),
  'name-wrong': entry<{ written: string; meant: string | null }>(
    'error',
    ({ written }) => `${written} is not the name of a variable: a name has letters, digits and _, and no digit first.`,
    ({ meant }) => (meant === null ? 'Give it another name.' : `Write ${meant}=... instead.`),
  ),
  'value-lacking': entry<Named>(
    'error',
    ({ name }) => `${name} stands here without = and a value.`,
    ({ name }) => `Write ${name}=... to give it a value, or put # before it.`,
  ),
  'line-not-understood': entry<Record<never, never>>(
    'error',
    () => 'This line is neither NAME=value nor a comment.',
    () => 'Put # before it if it is a comment. If it belongs to the value above, put quotes around that whole value.',
  ),
  'nul-byte': entry<Record<never, never>>(
    'error',
    () => 'The file holds a NUL byte, so it is not text; nothing was read from it.',
    () => 'Write the file anew as UTF-8 text; the NUL may also come from a disk that was full.',
  ),
  'not-utf8': entry<Record<never, never>>(
    'error',
    () => 'The file is not UTF-8 from here on; nothing was read from it.',
    () => 'Save it as UTF-8 in your editor. If it is no text at all, it is probably the wrong file.',
  ),
  'utf16-text': entry<Record<never, never>>(
    'error',
    () => 'The file is UTF-16 text; nothing was read from it.',
    () => 'Save it as UTF-8. (Windows PowerShell writes UTF-16 with > unless told -Encoding utf8.)',
  ),
  'file-too-large': entry<{ size: number }>(
    'error',
    ({ size }) =>
      `The file has ${size} bytes, more than the 16777216 (16 MiB) that are read; nothing was read from it.`,
    () => 'It is probably not an env file. Keep large data in a file of its own and put its path into the setting.',
  ),
}
