import type { Language } from './language.ts'
import type { SourceLiteral } from './source.ts'
import { readByTree } from './tree/reading.ts'
import { tokenGrammar } from './tree/token-grammar.ts'

const language = readByTree({
  name: 'Swift',
  files: /\.swift$/,
  comment: /\/\//,
  reads: ['\\.environment\\[\\s*NAME'],
  conditionals: { ternary: true, blocks: true },
  grammar: tokenGrammar(
    {
      comments: [/\/\/[^\n]*/y, /\/\*[\s\S]*?\*\//y, /@[A-Za-z]\w*(?:\([^()\n]*\))?/y],
      texts: [
        { opens: /#+"""/y, closes: (opening) => `"""${opening.slice(0, -3)}`, escapes: false },
        { opens: /#+"/y, closes: (opening) => `"${opening.slice(0, -1)}`, escapes: false },
        { opens: /"""/y, closes: () => '"""', escapes: true },
        { opens: /"/y, closes: () => '"', escapes: true },
      ],
    },
    () => false,
    false,
  ),
})

/** Swift. An app has no environment of its own, so values are found, and their files become templates. */
export const swift: Language = {
  ...language,
  read(text, file, isWanted) {
    const source = language.read(text, file, isWanted)
    // `URL(string: "...")`: the name of the argument says nothing of the address.
    return (
      source && {
        ...source,
        literals: source.literals.map((each) => (isAddress(each) ? { ...each, isCalled: true } : each)),
      }
    )
  },
}

function isAddress({ callee, names }: SourceLiteral): boolean {
  return callee === 'URL' && names.at(-1) === 'string'
}
