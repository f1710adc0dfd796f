/** An `error` keeps the program from starting; a `notice` does not. */
export type Severity = 'error' | 'notice'

/** A detail that a sentence needs. A list is written with commas. */
export type Detail = string | number | readonly string[]

/**
 * One kind of problem: how bad it is, its sentence, and what to do about it. Words in braces, such as `{name}`,
 * stand for the details. Plain text rather than functions: it can be listed, and costs nothing until it is used.
 */
export interface CatalogueEntry<Text extends string = string, NearText extends string = string> {
  readonly severity: Severity
  /** One sentence that says what is wrong. */
  readonly message: Text
  /** One sentence that says what to do. */
  readonly hint: Text
  /** The hint where something near to what was written exists; `{near}` stands for it. */
  readonly nearHint: NearText | null
}

/** The words in braces in a text. `${NAME}` and `{ ... }` are none. */
type Words<Text extends string> = Text extends `${string}{${infer Inside}}${infer Rest}`
  ? Word<Inside> | Words<Rest>
  : never

type Word<Inside extends string> = Inside extends `${string}{${infer Inner}`
  ? Word<Inner>
  : Inside extends `${string} ${string}`
    ? never
    : Inside extends Lowercase<Inside>
      ? Inside
      : never

/** The placeholders of the message and the hints of an entry. */
export type DetailsOf<Entry> =
  Entry extends CatalogueEntry<infer Text, infer NearText>
    ? { readonly [Word in Exclude<Words<Text>, 'near'>]: Detail } & ([NearText] extends [never]
        ? unknown
        : { readonly near: string | null })
    : never

function entry(severity: Severity, message: string, hint: string, nearHint?: string): CatalogueEntry {
  return { severity, message, hint, nearHint: nearHint ?? null }
}

type Make = {
  <const Message extends string, const Hint extends string>(
    message: Message,
    hint: Hint,
  ): CatalogueEntry<Message | Hint, never>
  <const Message extends string, const Hint extends string, const NearHint extends string>(
    message: Message,
    hint: Hint,
    nearHint: NearHint,
  ): CatalogueEntry<Message | Hint, NearHint>
}

/** A problem that keeps a program from starting. */
export const error = ((message: string, hint: string, nearHint?: string) =>
  entry('error', message, hint, nearHint)) as Make

/** A problem that does not: something was read leniently, or is probably a slip. */
export const notice = ((message: string, hint: string, nearHint?: string) =>
  entry('notice', message, hint, nearHint)) as Make

/** Puts details into a text. A word that no detail is given for stays as it is. */
export function fill(text: string, details: Readonly<Record<string, Detail | null>>): string {
  return text.replace(/\{([a-z]+)\}/g, (braces, word: string) => {
    const detail = Object.hasOwn(details, word) ? details[word] : null
    if (detail === null || detail === undefined) return braces
    return typeof detail === 'object' ? detail.join(', ') : String(detail)
  })
}
