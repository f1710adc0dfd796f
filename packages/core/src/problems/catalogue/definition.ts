import { error } from './entry.ts'

/** What can be wrong with a definition, and with finding one. */
export const definitionProblems = () => ({
  'definition-not-tree': error(
    '{path} is {found}; a setting or a group of settings belongs here.',
    "Write a setting, such as setting.string('What it is for'), or an object that groups settings.",
  ),
  'definition-empty': error('{path} has no settings.', 'Add a setting, or remove the group.'),
  'definition-circular': error(
    'The group {path} contains itself.',
    'A definition is a tree: each group has one place in it.',
  ),
  'definition-too-deep': error(
    'The group {path} has groups within groups, more than {most} deep.',
    'Put settings that belong together into one group.',
  ),
  'definition-unreadable': error(
    "{path} can't be read: {why}",
    'A definition is made of plain objects: write a value there, in place of an accessor that fails.',
  ),
  'setting-path-wrong': error(
    "{path} can't be a setting: {key} is not a usable name.",
    'Begin with a letter, followed by letters and digits, such as starMapUrl; names that every object has, such as constructor, are reserved.',
  ),
  'setting-name-taken': error(
    '{path} and {other} both have the variable name {name}.',
    "Give one of them another: { name: 'ANOTHER_NAME' }.",
  ),
  'setting-description-missing': error(
    '{path} has no description.',
    'Say in a few words what {path} is for; help, the example file and messages show it.',
  ),
  'setting-option-unknown': error(
    '{path} has the option {option}, which its kind does not have. Its options are {options}.',
    'Remove it.',
    'Did you mean {near}?',
  ),
  'setting-option-wrong': error('The option {option} of {path} must be {needed}.', 'Write {needed}.'),
  'setting-option-unreadable': error('The option {option} of {path} is invalid: {why}', 'Change the option.'),
  'setting-options-exclusive': error(
    '{path} has more than one of {options}; they exclude each other.',
    'Remove all but one.',
  ),
  'stage-changes-type': error(
    'The option {option} of {path} must be {needed}: the type of a value is the same in all stages.',
    'Put into the options for all stages what decides the type; a stage can narrow it with constraints.',
  ),
  'limits-contradict': error('{lower} and {upper} of {path} leave no value between them.', 'Change one of the two.'),
  'setting-option-missing': error('{path} needs the option {option}.', 'Add {option}: {needed}.'),
  'read-at-needs-public': error(
    '{path} has readAt, which says when a page gets its value, but is not public.',
    'Add public: true, or remove readAt. A program reads all its settings when it starts.',
  ),
  'setting-secret-public': error(
    "{path} is both secret and public. What is public may reach the browser, so it can't be secret.",
    'Remove one of the two.',
  ),
  'accept-former-needs-secret': error(
    '{path} has acceptFormerFor, which is for keys that both ends change, but is not secret.',
    'Add secret: true, or remove acceptFormerFor.',
  ),
  'setting-secret-default': error(
    '{path} is a secret and has a default, so the secret is in the code.',
    'Remove the default and put the value into a .local file or the process environment; rotate the key, too, if it was ever committed.',
  ),
  'setting-optional-default': error(
    '{path} is optional and has a default; they exclude each other.',
    'Keep the default if there is always a value, or optional: true if it may be undefined.',
  ),
  'setting-default-wrong': error(
    'The default of {path} breaks a rule of the setting: {why}',
    'Change the default or the rule.',
  ),
  'programs-wrong': error(
    'The option programs must be a list of different names, each of letters, digits, - and _.',
    "Write, for example, programs: ['web', 'worker'].",
  ),
  'setting-program-unknown': error(
    '{path} is for {program}, which is none of the programs of the definition.',
    'Add it to the option programs of the definition, beside stages, or correct it; there are: {programs}.',
    'Did you mean {near}?',
  ),
  'condition-of-other-program': error(
    'Whether {path} is needed depends on {other} ({rule}), which the program {program} does not have.',
    'Add {program} to the option for of {other}, or remove the condition.',
  ),
  'stages-wrong': error(
    'The option stages must be a list with at least one name, or an object with what each stage is like.',
    "Write, for example, stages: ['development', 'staging', 'production'], or as an object, with members such as 'preview-*': { like: 'staging' }.",
  ),
  'stage-name-wrong': error(
    "{stage} can't be the name of a stage.",
    'Use lowercase letters, digits and -, beginning with a letter; local and example are reserved, since .env.local and .env.example have their own meaning.',
  ),
  'stage-options-wrong': error(
    'The stage {stage} has options that a stage does not have; the only one is like.',
    "Write, for example, { like: 'staging' }, or an empty object.",
  ),
  'stage-like-unknown': error(
    'The stage {stage} is like {like}, which is not the name of a stage. The stages are {stages}.',
    'Name one of them; a pattern can not be named.',
    'Did you mean {near}?',
  ),
  'stage-like-circular': error(
    'The stage {stage} is like {like}, which is like {stage} in turn.',
    'Remove one of the two.',
  ),
  'stage-name-twice': error('The stage {stage} is listed twice.', 'List it once.'),
  'prefix-wrong': error(
    "{prefix} can't be a prefix of variable names.",
    "Use letters, digits and _, beginning with a letter, such as 'FERN_'.",
  ),
  'directory-wrong': error(
    'The option directory must be the path of a directory.',
    "Write, for example, directory: '/run/secrets'.",
  ),
  'layers-from-wrong': error(
    'The option layersFrom must list relative paths of directories, separated by slashes; it has {directory}.',
    "Write, for example, layersFrom: ['../..'].",
  ),
  'layers-from-own': error(
    '{directory} in layersFrom is the directory of the project itself, whose layer files are read anyway.',
    'Remove it, or name the directory whose layer files are shared.',
  ),
  'layers-from-twice': error('{directory} names a directory that layersFrom has already.', 'Remove one of the two.'),
  'rule-stage-unknown': error(
    '{path} has rules for the stage {stage}, which does not exist. The stages are {stages}.',
    'Name one of them, or add the stage to the definition.',
    'Did you mean {near}?',
  ),
  'rule-setting-unknown': error(
    '{rule} of {path} names {other}, which is not another setting of this definition.',
    'Write the path of another setting, such as dome.motors.',
    'Did you mean {near}?',
  ),
  'rule-on-secret': error(
    '{rule} of {path} depends on {other}, which is a secret: the rule would reveal its value.',
    'Make it depend on a setting that is not a secret.',
  ),
  'rule-value-wrong': error(
    '{rule} of {path} requires {other} to be {value}, but {other} can never be {value}.',
    'Use a value of its kind, as the program gets it.',
  ),
  'rule-needs-optional': error(
    '{path} has {rule}, but is always required or has a default.',
    'Add optional: true, so that the type says that there may be no value.',
  ),
  'rules-wrong': error(
    'The option rules must be a list of rules; it is {found}.',
    "Write, for example, rules: [{ ascending: ['night.from', 'night.to'] }].",
  ),
  'rule-form-wrong': error(
    'The definition has {rule}, which must have exactly one of {forms}.',
    'Write one rule for each; check names its settings in of.',
  ),
  'rule-kind-wrong': error(
    '{rule} names {path}, which is of the kind {kind}; it must name {needed}.',
    'Remove it from the rule, or write a check.',
  ),
  'definition-option-unknown': error(
    'A definition has no option {option}. Its options are {options}.',
    'Remove it.',
    'Did you mean {near}?',
  ),
  'setting-unknown': error(
    'There is no setting {asked} in the definition.',
    'mappa show lists all there are.',
    'Did you mean {near}?',
  ),
  'setting-kind-unknown': error(
    '{path} has the kind {kind}, which does not exist. The kinds are {kinds}.',
    'Use one of them.',
    'Did you mean {near}?',
  ),
})
