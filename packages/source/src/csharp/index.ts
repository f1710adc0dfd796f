import { readByTree } from '../tree/reading.ts'
import { tokenGrammar } from '../tree/token-grammar.ts'
import { csharpRewriting } from './rewriting.ts'

export const csharp = readByTree({
  name: 'C#',
  files: /\.(?:cs|csx)$/,
  comment: /\/\//,
  reads: ['\\bGetEnvironmentVariable\\(\\s*NAME'],
  conditionals: { ternary: true },
  rewriting: csharpRewriting,
  grammar: tokenGrammar(
    {
      comments: [/\/\/[^\n]*/y, /\/\*[\s\S]*?\*\//y, /^[ \t]*#[a-z][^\n]*/my, /^[ \t]*\[[A-Z][^\n]*\][ \t\r]*$/my],
      texts: [
        { opens: /\$"""/y, closes: () => '"""', escapes: false, interpolates: '{' },
        { opens: /"""/y, closes: () => '"""', escapes: false },
        { opens: /\$@"|@\$"/y, closes: () => '"', escapes: false, interpolates: '{' },
        { opens: /@"/y, closes: () => '"', escapes: false },
        { opens: /\$"/y, closes: () => '"', escapes: true, interpolates: '{' },
        { opens: /"/y, closes: () => '"', escapes: true },
      ],
      others: [/'(?:[^'\\\n]|\\[^\n]{1,5})'/y],
    },
    () => false,
    false,
  ),
})
