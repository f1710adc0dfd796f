import { readByLines } from './lines.ts'

export const java = readByLines({
  name: 'Java, Kotlin and Scala',
  files: /\.(java|kt|kts|scala)$/,
  comment: /\/\//,
  reads: ['\\bgetenv\\(\\s*NAME'],
})
