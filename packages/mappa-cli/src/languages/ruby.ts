import { readByLines } from './lines.ts'

export const ruby = readByLines({
  name: 'Ruby',
  files: /\.(rb|rake|ru)$|(^|\/)(Rakefile|Gemfile)$/,
  comment: /#/,
  reads: ['\\bENV(?:\\.fetch\\(|\\[)\\s*NAME'],
})
