import { readByLines } from './lines.ts'

export const go = readByLines({
  name: 'Go',
  files: /\.go$/,
  comment: /\/\//,
  reads: ['\\bos\\.(?:Getenv|LookupEnv)\\(\\s*NAME'],
})
