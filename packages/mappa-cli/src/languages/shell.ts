import { readByLines } from './lines.ts'

export const shell = readByLines({
  name: 'shell',
  files: /\.(sh|bash|zsh)$/,
  comment: /(?:^|\s)#/,
  reads: ['\\$\\{?([A-Z][A-Z0-9_]{2,})\\b'],
})
