import { readByLines } from './lines.ts'

export const php = readByLines({
  name: 'PHP',
  files: /\.php$/,
  comment: /\/\/|#/,
  reads: ['\\bgetenv\\(\\s*NAME', '\\$_(?:ENV|SERVER)\\[\\s*NAME', '\\benv\\(\\s*NAME'],
})
