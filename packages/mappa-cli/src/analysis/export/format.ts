/** A value that is to be written for another program. */
export interface ExportedValue {
  /** Variable name, such as `DOME_KEY`. */
  readonly name: string
  readonly text: string
  readonly secret: boolean
}

/** What a format has to be told. */
export interface FormatOptions {
  /** The name of the ConfigMap. */
  readonly configMap: string
  /** The name of the Secret. */
  readonly secret: string
}

/** A way to write values down. A new one is a file like those beside this one, and one line in `formats/index.ts`. */
export interface Format {
  readonly name: string
  /** What reads it, for `--help`. */
  readonly summary: string
  /** Why the format can't hold a value, as the end of a sentence: `can't be written, since it ...`; `null` where it can. */
  readonly refuse: (value: ExportedValue) => string | null
  /** The text of one file, or the texts of many by their names. */
  readonly write: (values: readonly ExportedValue[], options: FormatOptions) => string | ReadonlyMap<string, string>
}

/** Why a text can't be in a process environment; `null` where it can. */
export function refuseNul({ text }: ExportedValue): string | null {
  return text.includes('\0') ? 'it has a NUL character' : null
}
