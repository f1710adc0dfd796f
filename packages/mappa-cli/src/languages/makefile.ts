import { commandValues } from './commands.ts'
import type { Language } from './language.ts'
import { readByLines } from './lines.ts'

const lines = readByLines({
  name: 'Makefile',
  files: /(?:^|\/)(?:GNU)?[Mm]akefile$|\.mk$/,
  comment: /(?:^|\s)#/,
  isBare: true,
  valuesOn: commandValues,
  reads: [],
})

/** `:=`, `::=`, `?=`, `+=` and `!=` behind a name at the beginning of a line. */
const ASSIGNING = /(?<=^[ ]*[\w.-]+[ \t]*)(?:::?|[?+!])=/gm

/** Makefiles: their variables, however those are assigned, and the commands below targets. */
export const makefile: Language = {
  ...lines,
  // `:=` and the like assign as = does; everything stays where it is.
  read: (text, file) =>
    lines.read(
      text.replace(ASSIGNING, (sign) => sign.slice(0, -1).replace(/./g, ' ').concat('=')),
      file,
    ),
}
