/**
 * Makes text safe to send to a terminal.
 *
 * A value or a file name can hold escape sequences that move the cursor, recolour the screen or hide what
 * follows, and characters that nobody sees or that change the direction of writing can make one word look like another. Every
 * character that is not drawn becomes a readable code: `\n`, `\t`, `\u001b`, `\u{e0041}`.
 *
 * @param text any text
 * @param options `keep` holds characters to leave as they are, such as `'\n'`
 * @returns the same text with each character that is not visible written out
 * @example
 * ```ts
 * escapeInvisible('a\u001b[31mb') // 'a\\u001b[31mb'
 * ```
 */
export function escapeInvisible(text: string, options: { keep?: string } = {}): string {
  // Nearly every text is plain, and the table of Unicode takes time to load.
  if (/^[ -~]*$/.test(text)) return text
  unsafe ??= new RegExp(UNSAFE, 'gu')
  return text.replace(unsafe, (character) =>
    options.keep?.includes(character) ? character : escapeCharacter(character),
  )
}

let unsafe: RegExp | undefined

/**
 * By the categories of Unicode: control and format characters, separators of lines and paragraphs, every blank but the space, lone
 * surrogates, and what is drawn as nothing (Default_Ignorable_Code_Point, the braille blank).
 */
const UNSAFE = '[\\p{Cc}\\p{Cf}\\p{Zl}\\p{Zp}\\p{Cs}\\p{Default_Ignorable_Code_Point}\\u2800]|(?! )\\p{Zs}'

function escapeCharacter(character: string): string {
  if (character === '\n') return '\\n'
  if (character === '\r') return '\\r'
  if (character === '\t') return '\\t'
  const code = character.codePointAt(0)!
  return code > 0xffff ? `\\u{${code.toString(16)}}` : `\\u${code.toString(16).padStart(4, '0')}`
}

/** The styles that Mappa gives its own text: bold, faint, colours, and their ends. */
const OWN_STYLE = /\u001b\[(?:0|1|2|22|31|32|33|39)m/g

/**
 * Makes a text safe that is about to be printed: line breaks and the styles of Mappa stay, all else that is not visible is
 * written out. Everything that is printed goes through here last, whatever was forgotten before.
 */
export function toPrintable(text: string): string {
  if (/^[ -~\n]*$/.test(text)) return text
  let safe = ''
  let at = 0
  for (const { index, 0: style } of text.matchAll(OWN_STYLE)) {
    safe += escapeInvisible(text.slice(at, index), { keep: '\n' }) + style
    at = index + style.length
  }
  return safe + escapeInvisible(text.slice(at), { keep: '\n' })
}

/** JSON with every character written out that is not visible; the data stays the same. */
export function toVisibleJson(json: string): string {
  return escapeInvisible(json, { keep: '\n' }).replace(/\\u\{([0-9a-f]+)\}/g, (_, code: string) =>
    [...String.fromCodePoint(Number.parseInt(code, 16))]
      .flatMap((each) => [each.charCodeAt(0), each.charCodeAt(1)])
      .map((unit) => `\\u${unit.toString(16)}`)
      .join(''),
  )
}
