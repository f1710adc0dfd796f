import { readByLines } from './lines.ts'

export const csharp = readByLines({
  name: 'C#',
  files: /\.cs$/,
  comment: /\/\//,
  reads: ['\\bGetEnvironmentVariable\\(\\s*NAME'],
})
