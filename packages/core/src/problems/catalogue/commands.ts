import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What keeps a command from doing what it is asked to. */
export const commandProblems = () => ({
  'value-empty': error('The value for {name} is empty, and a value is required.', 'Give a value; nothing was written.'),
  'value-twice': error('Both a value and --random were given for {name}.', 'Give one of the two.'),
  'name-or-missing': error(
    'mappa set is about one setting, or with --missing about all that are missing.',
    'Write mappa set NAME, or mappa set --missing without a name, --local and --random.',
  ),
  'no-shared-files': error(
    'The definition shares no layer files: it has no layersFrom.',
    "Add it to the definition, such as layersFrom: ['../..']; or omit --shared.",
  ),
  'value-not-given': error('No value was given.', 'Nothing was written. Run the command again to enter one.'),
  'random-wrong': error('--random takes a whole number from 1 to 1024.', 'Write, for example, --random 24.'),
  'environment-left-out': notice(
    'The process environment has values of {names}, which are left out: it is that of one stage, and several are looked at.',
    'Look at one stage to have them used, with --stage {stage} for example.',
  ),
  'file-of-no-stage': notice(
    '{file} is a file of the stage {stage}, which does not exist: nothing reads it. The stages are {stages}.',
    'Rename it, or add the stage to the definition; a name with a *, such as preview-*, stands for many.',
  ),
  'secret-on-command-line': error(
    '{name} is a secret, and arguments of a command are visible to other users and stay in the history of the shell.',
    'Omit the value: it is then asked for, or read from standard input. If it was a real key, rotate it.',
  ),
  'secret-without-stage': error(
    '{name} is a secret, and no stage was named.',
    'Add --stage development, for example; or add --local to use one value for all stages on this machine.',
  ),
  'file-not-there': error('There is no file {file}.', 'Check the path; it is relative to the current directory.'),
  'format-refuses': error(
    "{name} can't be written in the format {format}, since {reason}.",
    'Use another format, or store the value as base64.',
  ),
  'resource-name-wrong': error(
    '{name} is no name that Kubernetes takes.',
    'Use lowercase letters, digits, - and ., beginning and ending with a letter or digit (RFC 1123), at most 253 characters.',
  ),
  'out-needed': error(
    'The format {format} makes many files, and no directory was named for them.',
    'Add --out, such as --out run/settings.',
  ),
  'derived-foreign': error(
    '{file} was not written by mappa, so it was not replaced.',
    'Move it away, write to another directory with --out-dir, or add --force to replace it.',
  ),
  'output-edited': error(
    '{file} was changed by hand, or was not made by this command, and would be overwritten.',
    'Move the changes to where they belong, or add --force to overwrite it.',
  ),
  'output-outside': error(
    '{file} lies outside the project, {root}.',
    'Write to a file within the project, or to standard output, and redirect that.',
  ),
  'output-is-link': error(
    '{file} is a link, so nobody can tell what would be overwritten.',
    'Remove the link, or name another output.',
  ),
  'output-below-file': error("{file} can't be written, since {part} is a file.", 'Name another output.'),
  'output-twice': error(
    '{file} would be written twice, with different contents.',
    'Put the name of the stage or of the template into --out; mappa help fill says how.',
  ),
  'former-still-accepted': error(
    '{name} holds a value that is accepted until {end}, and writing {present} would put another in its place.',
    'Remove its line when nobody uses it any more, or write with --forget-former: the value of {present} is not kept then.',
  ),
  'program-with-files': error(
    'Env files are compared whole, and --program is for stages.',
    'Leave out --program, or name stages in the place of {files}.',
  ),
  'stages-and-files': error(
    'Stages and files are named together, and {files} can only be compared with other files.',
    'Name stages only, or files only. The name of a file has a dot or a slash in it.',
  ),
  'secret-file-tracked': error(
    "git tracks {file}, so a secret can't be written to it.",
    'Run git rm --cached {file} and commit that; rotate every key that was ever committed in it.',
  ),
})

/** Makes a problem that only a command can meet. */
export const commandProblem = /* @__PURE__ */ problemFactory(commandProblems)
