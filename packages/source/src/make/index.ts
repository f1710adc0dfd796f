import type { Language } from '../language.ts'
import { findCommandValues } from '../lines/commands.ts'
import { readByLines } from '../lines/lines.ts'
import type { Source } from '../source.ts'
import { makeRewriting } from './rewriting.ts'

const lines = readByLines({
  name: 'Makefile',
  files: /(?:^|\/)(?:GNU)?[Mm]akefile$|\.mk$/,
  comment: /(?:^|\s)#/,
  isBare: true,
  valuesOn: findCommandValues,
  reads: [],
})

/** `:=`, `::=`, `?=`, `+=` and `!=` behind a name at the beginning of a line. */
const ASSIGNING = /(?<=^[ ]*[\w.-]+[ \t]*)(?:::?|[?+!])=/gm

/** Makefiles: their variables, however those are assigned, and the commands below targets. */
export const makefile: Language = {
  ...lines,
  read: readMakefile,
  rewriting: makeRewriting((text, file) => readMakefile(text, file).literals),
}

/** `:=` and the like assign as = does; everything stays where it is. */
function readMakefile(text: string, file: string): Source {
  const plain = text.replace(ASSIGNING, (sign) => sign.slice(0, -1).replace(/./g, ' ').concat('='))
  return lines.read(plain, file)!
}
