import { readByTree } from '../tree/reading.ts'
import { tokenGrammar } from '../tree/token-grammar.ts'
import { rubyRewriting } from './rewriting.ts'

const CLOSING: Readonly<Record<string, string>> = { '(': ')', '[': ']', '{': '}', '<': '>' }
const findClosing = (opening: string) => CLOSING[opening.at(-1)!] ?? opening.at(-1)!

export const ruby = readByTree({
  name: 'Ruby',
  files: /\.(rb|rake|ru|gemspec)$|(^|\/)(Rakefile|Gemfile)$/,
  comment: /#/,
  reads: ['\\bENV(?:\\.fetch\\(|\\[)\\s*NAME'],
  conditionals: { ternary: true },
  rewriting: rubyRewriting,
  grammar: tokenGrammar(
    {
      comments: [/#[^\n]*/y, /^=begin\b[\s\S]*?^=end\b[^\n]*/my],
      texts: [
        { opens: /"/y, closes: () => '"', escapes: true, interpolates: '#{' },
        { opens: /'/y, closes: () => "'", escapes: true },
        { opens: /%Q?[([{<|!](?=\S)/y, closes: findClosing, escapes: true, interpolates: '#{' },
        { opens: /%q[([{<|!]/y, closes: findClosing, escapes: true },
      ],
      words: [/\$[^\w\s{(]/y, /(?<![\w)\]])\?[^\w\s](?!\w)/y],
      others: [
        // Over several lines, with blanks and comments of its own.
        /\/(?=[\n^\\(])(?:[^/\\]|\\.){0,4000}?\/[imounse]*x[imxounse]*\b/sy,
        /%[wiWI]\[[^\]]*\]/y,
        /%[wiWI]\([^)]*\)/y,
        /%r\{(?:[^}\\]|\\.)*\}\w*/y,
        /%r(["'!|])(?:(?!\1)[^\\]|\\.)*\1\w*/y,
        /\/(?:[^/\n\\ ]|\\.)(?:[^/\n\\]|\\.)*\/[a-z]*/y,
        /:[A-Za-z_]\w*[?!]?/y,
        /:"[^"\n]*"/y,
      ],
      heredoc: /<<[~-]?(?:["'`]([^"'`\n]+)["'`]|([A-Z_][A-Z0-9_]*))/y,
    },
    (raw) => raw.startsWith("'") || raw.startsWith('%q'),
    true,
  ),
})
