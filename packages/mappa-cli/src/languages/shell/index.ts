import { commandValues } from '../commands.ts'
import type { Language } from '../language.ts'
import { readByLines } from '../lines.ts'
import { shellRewriting } from './rewriting.ts'

const lines = readByLines({
  name: 'shell',
  files: /\.(sh|bash|zsh|ksh)$/,
  comment: /(?:^|\s)#/,
  isBare: true,
  valuesOn: commandValues,
  reads: ['\\$\\{?([A-Z][A-Z0-9_]{2,})\\b'],
})

/** Scripts of the shells that follow POSIX, and what those add to it. */
export const shell: Language = { ...lines, rewriting: shellRewriting((text, file) => lines.read(text, file)!.literals) }
