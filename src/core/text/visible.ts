/**
 * Makes text safe to send to a terminal.
 *
 * A value or a file name can hold escape sequences that move the cursor, recolour the screen or hide what
 * follows. Every character that is not drawn becomes a readable code: `\n`, `\t`, `\u001b`. Characters that
 * change the direction of writing are made readable too, since they can make one word look like another.
 *
 * @param text any text
 * @param options `keep` holds characters to leave as they are, such as `'\n'`
 * @returns the same text with each control character written out
 * @example
 * ```ts
 * visible('a\u001b[31mb') // 'a\\u001b[31mb'
 * ```
 */
export function visible(text: string, options: { keep?: string } = {}): string {
  return text.replace(UNSAFE, (character) => {
    if (options.keep?.includes(character)) return character
    if (character === '\n') return '\\n'
    if (character === '\r') return '\\r'
    if (character === '\t') return '\\t'
    return `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`
  })
}

/**
 * Control characters (Unicode category Cc), line and paragraph separators, marks that set the direction of
 * writing or have no width, and halves of characters that stand alone.
 */
const UNSAFE =
  /[\u0000-\u001f\u007f-\u009f\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g
