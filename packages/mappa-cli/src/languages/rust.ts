import { readByLines } from './lines.ts'

export const rust = readByLines({
  name: 'Rust',
  files: /\.rs$/,
  comment: /\/\//,
  reads: ['\\benv::var(?:_os)?\\(\\s*NAME'],
})
