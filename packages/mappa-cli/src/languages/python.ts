import { readByLines } from './lines.ts'

export const python = readByLines({
  name: 'Python',
  files: /\.pyi?$/,
  comment: /#/,
  reads: ['\\benviron(?:\\.get\\(|\\[)\\s*NAME', '\\bgetenv\\(\\s*NAME'],
})
