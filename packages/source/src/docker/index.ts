import type { Language } from '../language.ts'
import { findCommandValues } from '../lines/commands.ts'
import { readByLines } from '../lines/lines.ts'
import { dockerRewriting } from './rewriting.ts'

const lines = readByLines({
  name: 'Dockerfile',
  files: /(^|\/|\.)(Docker|Container)file(\.[\w-]+)?$/i,
  comment: /^\s*#/,
  isBare: true,
  valuesOn: findCommandValues,
  reads: ['^\\s*ARG\\s+([A-Z][A-Z0-9_]*)', '(?<!\\\\)\\$\\{?([A-Z][A-Z0-9_]*)\\b'],
})

/** The instructions that build an image. */
export const dockerfile: Language = {
  ...lines,
  rewriting: dockerRewriting((text, file) => lines.read(text, file)!.literals),
}
