import { readByTree } from '../tree/reading.ts'
import { tokenGrammar } from '../tree/token-grammar.ts'
import { kotlinRewriting } from './rewriting.ts'

export const kotlin = readByTree({
  name: 'Kotlin and Scala',
  files: /\.(kt|kts|scala|sbt)$/,
  comment: /\/\//,
  reads: ['\\bgetenv\\(\\s*NAME', '\\bgetenv\\(\\)\\[\\s*NAME', '\\bsys\\.env(?:\\.getOrElse|\\.get)?\\(\\s*NAME'],
  conditionals: { blocks: true },
  rewriting: kotlinRewriting,
  grammar: tokenGrammar(
    {
      comments: [/\/\/[^\n]*/y, /\/\*[\s\S]*?\*\//y, /@[A-Z]\w*(?:\([^()\n]*\))?/y],
      texts: [
        { opens: /(?:s|f|raw)?"""/y, closes: () => '"""', escapes: false, interpolates: '${' },
        { opens: /(?:s|f|raw)?"/y, closes: () => '"', escapes: true, interpolates: '${' },
      ],
      others: [/'(?:[^'\\\n]|\\[^\n]{1,5})'/y],
    },
    () => false,
    false,
  ),
})
