import { error, notice } from './entry.ts'

/** What can be wrong in the text of an env file. No sentence here repeats any text but names. */
export const envfileProblems = () => ({
  'spaces-unquoted': notice(
    'The value of {name} has spaces and no quotes; it was read up to the end of the line.',
    "Put quotes around it, since a shell reads only the first word: {name}='...'.",
  ),
  'spaces-around-equals': notice(
    'There are spaces around the = of {name}; they are ignored.',
    'Remove them, since a shell does not read the line this way: {name}=...',
  ),
  'backslash-unquoted': notice(
    'The value of {name} has a backslash and no quotes; the backslash was kept.',
    "Put single quotes around it, since a shell drops the backslash: {name}='...'.",
  ),
  'quote-in-value': notice(
    'The value of {name} has a quote in it but does not begin with one; the quote was kept.',
    'Put the other kind of quotes around the whole value, since a shell drops the quote: {name}="it\'s" or {name}=\'"so"\'.',
  ),
  'quote-in-reference': notice(
    'The value of {name} has a single quote within a reference; it was kept.',
    'Give that text to a variable of its own and refer to it, since bash takes the quote for the beginning of a quoted text there.',
  ),
  'shell-character': notice(
    'The value of {name} has a character that means something to a shell (& ; | < > or a bracket) and no quotes; it was kept.',
    "Put single quotes around the value: {name}='...'.",
  ),
  'braces-unquoted': notice(
    'The value of {name} has braces and no quotes behind export; they were kept.',
    "Put single quotes around it, since bash expands them there: export {name}='...'.",
  ),
  'byte-order-mark': notice(
    'The file begins with a byte-order mark, which was ignored.',
    'Save it as UTF-8 without one, since a shell takes it for a part of the first name, and loses that variable.',
  ),
  'dollar-kept': notice(
    'The value of {name} has a $ with no name after it; the $ was kept.',
    "Put single quotes around the value to say that $ is just a character: {name}='...'.",
  ),
  'carriage-return': notice(
    'The value of {name} has a carriage return in the middle of the line; it was kept.',
    'Save the file with line feeds at the ends of lines, if the carriage return was meant to end the line.',
  ),
  'name-twice': notice(
    '{name} is defined on lines {line} and {holds}; line {holds} wins.',
    'Remove one of them; line {line} has no effect.',
  ),
  'quote-open': error(
    'The value of {name} begins with {quote} and no {quote} closes it.',
    'Add the closing {quote} at the end of the value.',
  ),
  'text-after-quote': error(
    'There is text after the {quote} that closes the value of {name} and was opened on line {opened}.',
    'Write \\" for a double quote within double quotes; put double quotes around a value that has a single quote in it; begin a comment with a space and #.',
  ),
  'key-unquoted': error(
    'The value of {name} is a key of several lines and has no quotes.',
    "Put a quote before -----BEGIN and one behind the last -----: {name}='-----BEGIN ... END ...-----'.",
  ),
  'command-not-run': error(
    'The value of {name} has {form} in it. Commands are never run from an env file.',
    "If the characters are meant as they stand, put single quotes around the value: {name}='...'. If the output of the command is meant, run it and write down what it prints.",
  ),
  'colon-for-equals': error('This line has : where = belongs.', 'Write NAME=... instead.', 'Write {near}=... instead.'),
  'name-wrong': error(
    'The text before = is not a variable name: a name has letters, digits and _, and does not begin with a digit.',
    'Give it another name. If the line belongs to the value above, put quotes around that whole value.',
    'Write {near}=... instead.',
  ),
  'value-lacking': error(
    'This line is a name without = and a value.',
    'Write NAME=... to give it a value, or put # before it.',
    'Write {near}=... to give it a value, or put # before it.',
  ),
  'line-not-understood': error(
    'This line is neither NAME=value nor a comment.',
    'Put # before it if it is a comment. If it belongs to the value above, put quotes around that whole value.',
  ),
  'more-errors': error(
    'The file has {count} more errors, which are not listed.',
    'Fix those that are listed. If nearly every line has one, it is probably not an env file.',
  ),
  'more-notices': notice(
    'The file has {count} more notices, which are not listed.',
    'Fix those that are listed, then check again.',
  ),
  'nul-byte': error(
    'The file contains a NUL byte, so it is not text; nothing was read from it.',
    'Write the file again as UTF-8 text; a full disk may have caused the NUL.',
  ),
  'not-utf8': error(
    'The file is not UTF-8 from here on; nothing was read from it.',
    'Save it as UTF-8 in your editor. If it is no text at all, it is probably the wrong file.',
  ),
  'utf16-text': error(
    'The file is UTF-16 text; nothing was read from it.',
    'Save it as UTF-8. (Windows PowerShell writes UTF-16 with > unless told -Encoding utf8.)',
  ),
  'file-too-large': error(
    'The file has {size} bytes, more than the limit of 16777216 (16 MiB); nothing was read from it.',
    'It is probably not an env file. Keep large data in a file of its own and put its path into the setting.',
  ),
})
