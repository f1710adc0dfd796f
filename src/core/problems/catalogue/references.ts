import { entry } from './entry.ts'

type Reference = { name: string; to: string }

/** What can be wrong with `${NAME}` in a value. */
export const referenceProblems = {
  'reference-open': entry<{ name: string }>(
    'error',
    ({ name }) => `The value of ${name} has \${ and no } that closes it.`,
    ({ name }) => `Add the }, or put single quotes around the value if \${ is just text: ${name}='...'.`,
  ),
  'reference-wrong': entry<{ name: string }>(
    'error',
    ({ name }) => `The value of ${name} has a \${...} that is not understood.`,
    ({ name }) =>
      `The forms are \${NAME}, \${NAME:-other}, \${NAME-other}, \${NAME:?why}, \${NAME?why}, \${NAME:+other} and \${NAME+other}; if it is just text, put single quotes around the value: ${name}='...'.`,
  ),
  'reference-nested': entry<{ name: string }>(
    'error',
    ({ name }) => `The value of ${name} has references within references, more than 32 deep.`,
    () => 'Give the inner ones names of their own.',
  ),
  'reference-to-nothing': entry<Reference & { near: string | null; below: boolean }>(
    'error',
    ({ name, to, below }) =>
      below
        ? `The value of ${name} refers to ${to} itself, and no lower layer sets ${to}.`
        : `The value of ${name} refers to ${to}, and no layer sets ${to}.`,
    ({ name, to, near }) =>
      `${near === null ? `Set ${to}` : `Write ${near} if that was meant, or set ${to}`}, write \${${to}:-...} with something to use instead, or put single quotes around the value of ${name} if $ is just a character.`,
  ),
  'reference-circle': entry<{ circle: string }>(
    'error',
    ({ circle }) => `The references go round in a circle: ${circle}.`,
    () => 'Give one of them a value that does not refer to the others.',
  ),
  'reference-chain': entry<{ name: string }>(
    'error',
    ({ name }) => `The value of ${name} is more than 200 references away.`,
    () => 'Shorten the chain: refer to the last one directly.',
  ),
  'reference-demanded': entry<Reference & { why: string }>(
    'error',
    ({ name, to, why }) => `The value of ${name} demands ${to}, which is not set${why === '' ? '' : `: ${why}`}.`,
    ({ to }) => `Set ${to}.`,
  ),
  'value-too-large': entry<{ name: string }>(
    'error',
    ({ name }) => `The value of ${name} grows beyond 1048576 characters (1 MiB) when its references are filled in.`,
    () => 'Refer to fewer values, or to shorter ones.',
  ),
  'values-too-large': entry<{ name: string }>(
    'error',
    ({ name }) =>
      `The values that hold references grow beyond 16777216 characters (16 MiB) together; ${name} was the first that no longer fitted.`,
    () => 'Refer to fewer values, or to shorter ones.',
  ),
  'holds-secret': entry<Reference>(
    'error',
    ({ name, to }) => `${name} is no secret, but its value contains the secret ${to} by reference.`,
    ({ name }) => `Declare ${name} with secret: true, or take the reference out of its value.`,
  ),
}
