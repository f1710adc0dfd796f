import { readByLines } from './lines.ts'

export const yaml = readByLines({
  name: 'YAML',
  files: /\.ya?ml$/,
  comment: /(?:^|\s)#/,
  reads: ['(?<!\\$)\\$\\{([A-Z][A-Z0-9_]*)\\b'],
})
