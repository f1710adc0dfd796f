import { error, notice } from './entry.ts'

/** What can be wrong with files and stages. */
export const fileProblems = () => ({
  'file-is-directory': error(
    '{file} is a directory; a file is needed here.',
    'Move the directory away, or rename it. A container may have created it when it mounted {file} before the file existed.',
  ),
  'file-no-permission': error(
    'This user has no permission to read {file}.',
    'Allow this user to read it (ls -l {file} shows its owner), or run the program as its owner.',
  ),
  'file-not-regular': error(
    '{file} is neither a file nor a link to one.',
    'Pipes, sockets and devices are not read, since reading one can block forever. Use a regular file instead.',
  ),
  'file-link-broken': error(
    '{file} is a link to a file that does not exist.',
    'Create the file it points to, or remove the link (ls -l {file} shows where it points).',
  ),
  'file-unreadable': error(
    "{file} can't be read: {reason}.",
    'The reason comes from the operating system; the disk or the network drive may be the cause.',
  ),
  'file-name-near': notice(
    '{file} is not read; the name {meant} is.',
    'If it was meant for this project, rename it: mv {quoted} {meant}',
  ),
  'root-missing': error(
    "The project directory {root} does not exist or can't be listed.",
    'Name the directory that contains the .env files.',
  ),
  'layers-from-missing': notice(
    "{directory}, a directory of layersFrom, does not exist or can't be listed, so no layer files of it are read.",
    'Name the directory that has the shared layer files. It may be missing where all values come from the environment.',
  ),
  'root-no-directory': error(
    'The option root is {given}, which is not a directory on this machine.',
    'Give the path of a directory, or a file: URL such as import.meta.url.',
  ),
  'root-denied': error(
    "This process has no permission to read {root}, so .env files there can't be found.",
    'Start Node with --allow-fs-read={root} as well, or name another directory with the option root.',
  ),
  'directory-gone': error(
    "The current directory does not exist any more, or can't be read.",
    'Change to a directory that exists, or name the directory of the project with the option root.',
  ),
  'environment-from-file': error(
    '{name} in the process environment has the value of {file}, and for {stage} Mappa reads another one: it is not known whether something loaded that file, or somebody set the value.',
    'To have Mappa alone read env files, {off}. If the value is meant, say so: loadSettings(definition, { environment: process.env }).',
  ),
  'environment-loaded': notice(
    'Something loaded env files into the process environment. For {stage} other values are used, not these: {names}.',
    'To have Mappa alone read env files, {off}. If those values are meant, say so: loadSettings(definition, { environment: process.env }).',
  ),
  'filled-for-other': notice(
    'The process environment has values that mappa run or mappa-settings/preload put there for {other}; for {stage} they are not used: {names}.',
    'To use them all the same, remove MAPPA_FILLED from the environment.',
  ),
  'filled-from-store': notice(
    'mappa run or mappa-settings/preload put values of the store into the process environment, and the store, which this program reads itself, has others now: {names}. Those of the store are used.',
    'To use those of the environment all the same, remove MAPPA_FILLED from it.',
  ),
  'filled-unclear': error(
    '{name} was put into the process environment for {other}, and has another value now: it is not known whether that is meant for {stage}.',
    'Unset {name} to use the files of {stage}. If the value is meant, remove MAPPA_FILLED from the environment.',
  ),
  'stage-from-file': error(
    '{name} in the process environment has the value of {file}, which something loaded there: it is not known whether anybody chose this stage.',
    'Name the stage with --stage or the option stage, or remove {name} from {file}; or {off}.',
  ),
  'directory-unreadable': error(
    "The directory {directory} can't be listed: {reason}.",
    'Allow this user to list it, or configure another directory.',
  ),
  'flag-unknown': error(
    'There is no setting for the flag {flag}.',
    '--help lists all there are; pass arguments of the program itself after --.',
    'Did you mean {near}?',
  ),
  'flag-secret': error(
    '{flag} passes the secret {name}, and other users of this machine can see command lines.',
    'Put it into a .local file or the process environment. If it was a real key, rotate it.',
  ),
  'flag-value-missing': error(
    '{flag} has no value.',
    'Write {flag}=VALUE. A value behind a space must not begin with -, unless it is a number.',
  ),
  'flag-takes-no-value': error(
    '{flag} takes no value.',
    'Write {flag} alone; the flag without no- takes a value, such as =false.',
  ),
  'flag-shared': error(
    '{flag} can mean several settings: {names}.',
    'Set the one that you mean by its variable in the environment, or rename one of them in the definition.',
  ),
  'argument-unknown': error(
    'The command line has words that are not flags: {words}.',
    "Write --NAME=VALUE; --help lists the flags. Pass the program's own arguments after --, or have it load its settings with allowPositionals: true.",
  ),
  'stage-unknown': error(
    'There is no stage {stage} (named by {from}). The stages are {stages}.',
    'Name one of them, or add the stage to the definition: defineSettings({ ... }, { stages: [...] }).',
    'Did you mean {near}? Set MAPPA_STAGE={near} to name it for programs and commands; it comes before NODE_ENV.',
  ),
  'stage-assumed': notice(
    'NODE_ENV is {given}, which is not a stage, so the settings of {stage} are used. The stages are {stages}.',
    'Set MAPPA_STAGE to the stage that is meant.',
  ),
  'stage-not-named': notice(
    'No stage is named, so the settings of {stage} are used.',
    'Set MAPPA_STAGE (or NODE_ENV) to one of {stages}. With requireStage: true in the definition, no program starts without.',
  ),
  'stage-not-of-build': error(
    'This program was built for {build}, and {from} names {stage}.',
    'Build it for {stage}, or start it with MAPPA_STAGE={build}. If one build is meant for every stage, say so where it is built or loads its settings: allowOtherStage: true.',
  ),
  'stage-required': error(
    'No stage is named, and requireStage demands that one is.',
    'Set MAPPA_STAGE (or NODE_ENV) to one of {stages}, or pass the option stage or --stage.',
  ),
  'program-unknown': error(
    'The definition has no program {program} (named by {from}). Its programs are: {programs}.',
    'Name one of them, or add it to the option programs of the definition, beside stages.',
    'Did you mean {near}?',
  ),
  'setting-of-other-program': error(
    '{name} is a setting of other programs than {program}: it is for {programs}.',
    'Leave out --program, or add {program} to the option for of {path}.',
  ),
  'require-stage-wrong': error(
    'The option requireStage must be true or false.',
    'Write requireStage: true, or leave it out.',
  ),
  'callback-wrong': error(
    'The second argument of watchSettings must be a function; it is {found}.',
    'Write watchSettings(definition, (now, changes) => { ... }, options).',
  ),
  'option-unknown': error(
    '{where} has no option {option}. Its options are {options}.',
    'Remove it.',
    'Did you mean {near}?',
  ),
  'options-not-object': error(
    'The options of {where} must be a plain object; they are {found}.',
    'Write an object literal, or leave them out.',
  ),
})
