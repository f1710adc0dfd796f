import { readByTree } from './tree/reading.ts'
import { tokenGrammar } from './tree/token-grammar.ts'

/** Dart. An app has no environment of its own, so values are found, and their files become templates. */
export const dart = readByTree({
  name: 'Dart',
  files: /\.dart$/,
  comment: /\/\//,
  reads: ['\\.fromEnvironment\\(\\s*NAME', '\\bPlatform\\.environment\\[\\s*NAME'],
  conditionals: { ternary: true },
  grammar: tokenGrammar(
    {
      comments: [/\/\/[^\n]*/y, /\/\*[\s\S]*?\*\//y, /@[A-Za-z]\w*(?:\([^()\n]*\))?/y],
      texts: [
        { opens: /r(?:'''|""")/y, closes: (opening) => opening.slice(1), escapes: false },
        { opens: /r['"]/y, closes: (opening) => opening.slice(1), escapes: false },
        { opens: /'''|"""/y, closes: (opening) => opening, escapes: true, interpolates: '${' },
        { opens: /['"]/y, closes: (opening) => opening, escapes: true, interpolates: '${' },
      ],
    },
    (raw) => raw.startsWith('r'),
    false,
  ),
})
