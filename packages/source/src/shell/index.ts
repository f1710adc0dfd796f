import type { Language } from '../language.ts'
import { findCommandValues } from '../lines/commands.ts'
import { type LineValue, readByLines } from '../lines/lines.ts'
import type { Source } from '../source.ts'
import { shellRewriting } from './rewriting.ts'
import { readShellValue } from './values.ts'

const lines = readByLines({
  name: 'shell',
  files: /\.(sh|bash|zsh|ksh)$/,
  comment: /(?:^|\s)#/,
  isBare: true,
  valuesOn: (line) => [...findDefaults(line), ...findAssignments(line), ...findCommandValues(line)],
  reads: ['\\$\\{?([A-Z][A-Z0-9_]{2,})\\b'],
})

/** Scripts of the shells that follow POSIX, and what those add to it. */
export const shell: Language = {
  ...lines,
  read: readShell,
  rewriting: shellRewriting((text, file) => readShell(text, file).literals),
}

function readShell(text: string, file: string): Source {
  const { literals, reads, ...others } = lines.read(text, file)!
  const own = listOwnVariables(text)
  return {
    ...others,
    literals: literals.flatMap((each) => readShellValue(text, each)),
    // What the script has set itself further up says nothing of its environment.
    reads: reads.filter(({ name, line }) => line <= (own.get(name) ?? Infinity)),
  }
}

/** What gives a variable a value for the rest of a script, and not for one command. */
const ASSIGNED =
  /^\s*(?:(?:export|local|readonly|declare|typeset)\s+(?:-\w+\s+)*)?([A-Z][A-Z0-9_]*)=(?:["'`]|\$\(|[^\s;&|]*\s*(?:[;&|#]|$))|\bfor\s+([A-Z][A-Z0-9_]*)\s+in\b|\bread\s+(?:-\w+\s+)*([A-Z][A-Z0-9_]*)\b/

/** The variables that a script sets, with the number of the last line on which they may still be those of its environment. */
function listOwnVariables(text: string): ReadonlyMap<string, number> {
  const own = new Map<string, number>()
  for (const [index, line] of text.split('\n').entries()) {
    const [, assigned, ...filled] = ASSIGNED.exec(line) ?? []
    const name = assigned ?? filled.find((each) => each !== undefined)
    // An assignment may read the variable itself; what is filled by a loop is not read on that line before.
    if (name !== undefined && !own.has(name)) own.set(name, assigned === undefined ? index : index + 1)
  }
  return own
}

/** What stands in for a variable that is not set: `${DOME_PORT:-4100}`. */
function* findDefaults(line: string): Generator<LineValue> {
  for (const { 0: whole, 1: name, 2: value, index } of line.matchAll(/\$\{([A-Za-z_]\w*):?[-=]([^}"'$\s]{2,})\}/g)) {
    const form = /^\d+$/.test(value!) ? 'number' : 'text'
    const at = index + whole.length - 1 - value!.length
    yield { at, length: value!.length, value: value!, names: [name!], callee: null, form, variable: name! }
  }
}

/** What stands before a command, or several of them on one line: `PGHOST=db.fernhollow.example psql`. */
function* findAssignments(line: string): Generator<LineValue> {
  const [head] = /^\s*(?:(?:export|local|readonly|declare|env)\s+)?(?:[A-Za-z_]\w*=[^\s'"$`;|&()]*\s+)+/.exec(
    `${line} `,
  ) ?? ['']
  for (const { 0: whole, 1: name, 2: value, index } of head.matchAll(/(?<=^|\s)([A-Za-z_]\w*)=(\S{4,})/g)) {
    const form = /^\d+$/.test(value!) ? 'number' : 'text'
    const at = index + whole.length - value!.length
    yield { at, length: value!.length, value: value!, names: [name!], callee: null, form }
  }
}
