import { entry } from './entry.ts'

type At = { path: string }

/** What can be wrong with a definition, and with finding one. */
export const definitionProblems = {
  'definition-not-found': entry<{ looked: readonly string[] }>(
    'error',
    ({ looked }) => `No definition of settings was found. Looked for ${looked.join(', ')}.`,
    () => 'Create src/settings.definition.ts, or name the file with --settings FILE.',
  ),
  'definition-file-missing': entry<{ file: string; from: string }>(
    'error',
    ({ file, from }) => `The definition ${file}, named by ${from}, does not exist.`,
    () => 'Name a file that exists.',
  ),
  'definition-failed': entry<{ file: string; reason: string }>(
    'error',
    ({ file, reason }) => `The definition ${file} can't be loaded: ${reason}`,
    () => 'Mend the file; it should do nothing but call defineSettings.',
  ),
  'definition-not-exported': entry<{ file: string; found: string }>(
    'error',
    ({ file, found }) => `The definition ${file} exports ${found} where a definition is needed.`,
    () => 'Write: export default defineSettings({ ... }).',
  ),
  'definition-not-tree': entry<{ path: string; found: string }>(
    'error',
    ({ path, found }) =>
      `${path === '' ? 'The definition' : path} is ${found}; a setting or a group of settings belongs here.`,
    () => "Write a setting, such as setting.string('What it is for'), or an object that groups settings.",
  ),
  'definition-empty': entry<At>(
    'error',
    ({ path }) => `${path === '' ? 'The definition' : `The group ${path}`} has no settings.`,
    () => 'Add a setting, or take the group out.',
  ),
  'definition-circular': entry<At>(
    'error',
    ({ path }) => `The group ${path} contains itself.`,
    () => 'A definition is a tree: give each group a place of its own.',
  ),
  'setting-path-wrong': entry<At & { key: string }>(
    'error',
    ({ path, key }) => `${path} can't be a setting: ${key} is not a usable name.`,
    () =>
      'Use a letter first, then letters and digits, such as starMapUrl; names that every object has, such as constructor, are taken.',
  ),
  'setting-name-wrong': entry<At & { name: string }>(
    'error',
    ({ path, name }) => `${path} can't have the variable name ${name}.`,
    () => 'A variable name has capital or small letters, digits and _, and no digit first.',
  ),
  'setting-name-taken': entry<At & { name: string; other: string }>(
    'error',
    ({ path, name, other }) => `${path} and ${other} both have the variable name ${name}.`,
    () => "Give one of them another: { name: 'ANOTHER_NAME' }.",
  ),
  'setting-kind-unknown': entry<At & { kind: string; kinds: readonly string[]; near: string | null }>(
    'error',
    ({ path, kind, kinds }) => `${path} has the kind ${kind}, which does not exist. The kinds are ${kinds.join(', ')}.`,
    ({ near }) => (near === null ? 'Use one of them.' : `Did you mean ${near}?`),
  ),
  'setting-description-missing': entry<At>(
    'error',
    ({ path }) => `${path} has no description.`,
    ({ path }) => `Say in a few words what ${path} is for; help, example file and messages show it.`,
  ),
  'setting-option-unknown': entry<At & { option: string; options: readonly string[]; near: string | null }>(
    'error',
    ({ path, option, options }) =>
      `${path} has the option ${option}, which its kind does not know. It knows ${options.join(', ')}.`,
    ({ near }) => (near === null ? 'Take it out.' : `Did you mean ${near}?`),
  ),
  'setting-option-wrong': entry<At & { option: string; needed: string }>(
    'error',
    ({ path, option, needed }) => `The option ${option} of ${path} must be ${needed}.`,
    ({ needed }) => `Write ${needed}.`,
  ),
  'setting-option-missing': entry<At & { option: string; needed: string }>(
    'error',
    ({ path, option }) => `${path} lacks the option ${option}.`,
    ({ option, needed }) => `Add ${option}: ${needed}.`,
  ),
  'setting-secret-public': entry<At>(
    'error',
    ({ path }) => `${path} is both secret and public. What is public may reach the browser, so it can't be secret.`,
    () => 'Take one of the two out.',
  ),
  'setting-secret-default': entry<At>(
    'error',
    ({ path }) => `${path} is a secret and has a default, so the secret stands in the code.`,
    () =>
      'Take the default out and put the value into a .local file or the process environment; replace the key, too, if it was ever committed.',
  ),
  'setting-optional-default': entry<At>(
    'error',
    ({ path }) => `${path} is optional and has a default; one rules out the other.`,
    () => 'Keep the default if there is always a value, or optional: true if it may be undefined.',
  ),
  'setting-default-wrong': entry<At & { why: string }>(
    'error',
    ({ path, why }) => `The default of ${path} breaks a rule of its own: ${why}`,
    () => 'Change the default or the rule.',
  ),
  'stages-wrong': entry<Record<never, never>>(
    'error',
    () => 'The option stages must be a list with at least one name.',
    () => "Write, for example, stages: ['development', 'staging', 'production'].",
  ),
  'stage-name-wrong': entry<{ stage: string }>(
    'error',
    ({ stage }) => `${stage} can't be the name of a stage.`,
    () =>
      'Use small letters, digits and -, a letter first; local and example are taken, since .env.local and .env.example have a meaning of their own.',
  ),
  'stage-name-twice': entry<{ stage: string }>(
    'error',
    ({ stage }) => `The stage ${stage} is named twice.`,
    () => 'Name it once.',
  ),
  'prefix-wrong': entry<{ prefix: string }>(
    'error',
    ({ prefix }) => `${prefix} can't be a prefix of variable names.`,
    () => "Use letters, digits and _, a letter first, such as 'FERN_'.",
  ),
  'definition-option-unknown': entry<{ option: string; options: readonly string[]; near: string | null }>(
    'error',
    ({ option, options }) => `A definition has no option ${option}. It knows ${options.join(', ')}.`,
    ({ near }) => (near === null ? 'Take it out.' : `Did you mean ${near}?`),
  ),
  'setting-unknown': entry<{ asked: string; near: string | null }>(
    'error',
    ({ asked }) => `There is no setting ${asked} in the definition.`,
    ({ near }) => (near === null ? 'mappa show lists all there are.' : `Did you mean ${near}?`),
  ),
}
