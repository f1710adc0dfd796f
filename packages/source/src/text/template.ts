import type { Language } from '../language.ts'
import type { Rewriting } from '../rewriting.ts'
import { rewriteText, type TextPlace } from './rewriting.ts'

/** How values fit into a kind of file, by its ending; a value that stands alone gets other filters than one in quotes. */
const FILTERS: readonly (readonly [files: RegExp, inQuotes: string, alone: string])[] = [
  [/\.(?:json\w*|webmanifest|toml)$/i, '|json', '|json'],
  [/\.ya?ml$/i, '|json', '|yaml'],
  [/\.(?:xml|plist|config|props|csproj|html?)$/i, '|xml', '|xml'],
]

/**
 * How a file that can't read variables becomes a template for `mappa fill`: placeholders stand in the place of values.
 *
 * @param language reads the file
 */
export function templateRewriting(language: Language): Rewriting {
  return {
    ...rewriteText({
      literals: (text, file) => language.read(text, file)?.literals ?? [],
      obstacle: ({ text, literal }) =>
        /\.ya?ml$/i.test(literal.file) && /[|>]/.test(text[literal.start] ?? '') ? 'heredoc' : null,
      replace: ({ name }, place) => makePlaceholderEdit(name, place),
      start: () => null,
    }),
    // What looks like a placeholder already is none.
    tidy: (text) => text.replace(/\$(?=\{)/g, '$$$$').replaceAll(MARK, '$'),
  }
}

/** Stands for the dollar sign of a placeholder of ours while others are still told apart. */
const MARK = '\ue000'

function makePlaceholderEdit(name: string, { text, start, end, literal, isWhole }: TextPlace) {
  const quote = start > literal.start ? text[start - 1] : ''
  const [, inQuotes = '', alone = ''] = FILTERS.find(([files]) => files.test(literal.file)) ?? []
  // A single quote of YAML escapes nothing but itself.
  const isBare = quote === "'" && isWhole && /\.ya?ml$/i.test(literal.file)
  const range = isBare ? { from: literal.start, to: literal.end } : { from: start, to: end }
  const isNumber = literal.form === 'number' && isWhole
  const filter = quote !== '' && !isBare ? inQuotes : alone
  return [{ ...range, by: `${MARK}{${name}${isNumber ? '' : filter}}` }]
}

/** The name of the template that a file is made of: `settings.template.json` for `settings.json`. */
export function chooseTemplateName(file: string): string {
  const name = file.split('/').at(-1)!
  const dot = name.lastIndexOf('.')
  const cut = file.length - name.length + (dot <= 0 ? name.length : dot)
  return `${file.slice(0, cut)}.template${file.slice(cut)}`
}
