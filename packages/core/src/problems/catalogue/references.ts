import { error } from './entry.ts'

/** What can be wrong with `${NAME}` in a value. */
export const referenceProblems = () => ({
  'reference-open': error(
    'The value of {name} has ${ and no } that closes it.',
    "Add the }, or put single quotes around the value if ${ is just text: {name}='...'.",
  ),
  'reference-wrong': error(
    'The value of {name} has a ${...} that is not a valid reference.',
    "The forms are ${NAME}, ${NAME:-other}, ${NAME-other}, ${NAME:?why}, ${NAME?why}, ${NAME:+other} and ${NAME+other}; if it is just text, put single quotes around the value: {name}='...'.",
  ),
  'reference-nested': error(
    'The value of {name} has references within references, more than 32 deep.',
    'Give the inner ones names of their own.',
  ),
  'reference-to-nothing': error(
    'The value of {name} refers to {to}, and no layer sets {to}.',
    'Set {to}, write ${{to}:-...} with something to use instead, or put single quotes around the value of {name} if $ is just a character.',
    'Write {near} if that was meant, set {to}, write ${{to}:-...} with something to use instead, or put single quotes around the value of {name} if $ is just a character.',
  ),
  'reference-to-itself': error(
    'The value of {name} refers to {name} itself, and no lower layer sets it.',
    'Set {name} in a lower layer, write ${{name}:-...} with something to use instead, or put single quotes around the value if $ is just a character.',
  ),
  'reference-circle': error(
    'The references form a cycle: {circle}.',
    'Give one of them a value that does not refer to the others.',
  ),
  'reference-chain': error(
    'The value of {name} is behind a chain of more than 200 references.',
    'Shorten the chain: refer to the last one directly.',
  ),
  'reference-in-secret': error(
    'The value of {name} has a $ that begins a reference to a variable that is not set. {name} is a secret, so nothing of its value is shown here.',
    "If $ is just a character, put single quotes around the value: {name}='...'. Otherwise set the variable it refers to.",
  ),
  'reference-demanded': error('The value of {name} requires {to}, which is not set: {why}.', 'Set {to}.'),
  'value-too-large': error(
    'The value of {name} exceeds 1048576 characters (1 MiB) once its references are expanded.',
    'Refer to fewer values, or to shorter ones.',
  ),
  'values-too-large': error(
    'The values with references exceed 16777216 characters (16 MiB) together; {name} was the first that did not fit.',
    'Refer to fewer values, or to shorter ones.',
  ),
  'holds-secret': error(
    '{name} is not a secret, but its value contains the secret {to} through a reference.',
    'Declare {name} with secret: true, or remove the reference from its value.',
  ),
})
