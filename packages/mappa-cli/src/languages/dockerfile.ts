import { commandValues } from './commands.ts'
import { readByLines } from './lines.ts'

export const dockerfile = readByLines({
  name: 'Dockerfile',
  files: /(^|\/|\.)(Docker|Container)file(\.[\w-]+)?$/i,
  comment: /^\s*#/,
  isBare: true,
  valuesOn: commandValues,
  reads: ['^\\s*ARG\\s+([A-Z][A-Z0-9_]*)', '(?<!\\\\)\\$\\{?([A-Z][A-Z0-9_]*)\\b'],
})
