import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What keeps a template from being filled in. */
export const fillingProblems = () => ({
  'placeholder-open': error(
    'The placeholder {written} has no } that closes it.',
    'Add the }, or write $${ if ${ is just text.',
  ),
  'placeholder-wrong': error(
    '{written} is not a valid placeholder.',
    'The forms are ${NAME}, ${NAME|filter}, ${NAME:-other}, ${NAME-other}, ${NAME:?why}, ${NAME?why}, ${NAME:+other} and ${NAME+other}, with filters last: ${NAME:-other|filter}; write $${ if ${ is just text, or add --only-declared if another program fills it in.',
  ),
  'placeholder-nested': error(
    'There are placeholders within placeholders, more than 32 deep.',
    'Use values of their own for the inner ones.',
  ),
  'filter-unknown': error(
    'There is no filter {filter}. The filters are {filters}.',
    'Use one of them; a | that is just text has a backslash before it.',
    'Did you mean {near}?',
  ),
  'name-not-declared': error(
    'No setting has the name {name}.',
    'Declare it, write $${ if ${ is just text, or add --only-declared if another program fills it in.',
    'Did you mean {near}?',
  ),
  'value-not-set': error(
    '{name} has no value in {stage}.',
    'Set it (mappa set {name} --stage {stage}), or write ${{name}:-...} with something to use instead.',
  ),
  'value-not-valid': error(
    '{name} has no valid value in {stage}.',
    'mappa check --stage {stage} says what is wrong with it.',
  ),
  'value-demanded': error('{name} has no value in {stage}: {why}.', 'Set it: mappa set {name} --stage {stage}'),
  'secret-not-filled': error(
    '{name} is a secret, and secrets are not filled in.',
    'Add --with-secrets to fill them in, into a file that only you can read and git ignores; or have the program read {name} from its environment.',
  ),
  'value-misplaced': error(
    "The value of {name} can't stand here: {reason}.",
    'Put it where a whole value belongs, in quotes or in a block of its own lines, with the filter {filter}.',
  ),
  'filled-not-valid': error(
    '{file} would not be valid {language}: {reason}.',
    'Fix the template, or put values in by a filter: ${NAME|{filter}}.',
  ),
  'output-not-checked': notice(
    '{file} could not be checked: the template is not {language} by itself ({reason}).',
    'Look at the output, or make the template valid {language} around its placeholders; the filter {filter} can only be used then.',
  ),
  'format-not-known': notice(
    '{file} is not checked: it is none of {languages}, and {names} has signs that can mean something there.',
    'Look at the output. A filter such as sh, xml or url makes a value fit where it goes.',
  ),
  'no-shell-word': error(
    'The filter sh quotes the value of {name} as one word of a shell, which cannot stand in {context}.',
    'Assign it to a variable on a line of its own, {name}=${{name}|sh}, and use that variable here.',
  ),
  'fill-needs-out': error(
    'Several files would be filled in, and no names were given for them.',
    "Add --out, such as --out 'run/{name}.{stage}.{extension}'.",
  ),
  'verify-needs-out': error(
    '--verify compares outputs with their files, and no names were given for them.',
    'Add --out with the names that the outputs were written to.',
  ),
  'out-pattern-wrong': error('The name {out} has {written} in it, which means nothing.', 'Use {names}.'),
  'output-is-template': error('{file} is the template itself.', 'Name another output with --out.'),
  'template-missing': error('There is no template {file}.', 'Check the path; it is relative to the current directory.'),
})

/** Makes a problem with filling a template in. */
export const fillingProblem = /* @__PURE__ */ problemFactory(fillingProblems)
