/** A value in the JSON gateway: bytes, as base64. */
export const encode = (text: string) => Buffer.from(text, 'utf8').toString('base64')

/** Where the values of a program stand: `<prefix>/<stage>/<NAME>`, and who wrote last at `<prefix>/<stage>`. */
export class Keys {
  readonly #prefix: string

  /** @param prefix such as `fernhollow/dome-api` */
  constructor(prefix: string) {
    this.#prefix = prefix
  }

  /** The key of a variable. */
  of(stage: string, name: string): string {
    return encode(`${this.#prefix}/${stage}/${name}`)
  }

  /** The key of the note about the last change. */
  note(stage: string): string {
    return encode(`${this.#prefix}/${stage}`)
  }

  /** The range of all variables of a stage. `0` is the character behind `/`. */
  range(stage: string): { readonly key: string; readonly range_end: string } {
    return { key: encode(`${this.#prefix}/${stage}/`), range_end: encode(`${this.#prefix}/${stage}0`) }
  }

  /** The range of the note and of all variables of a stage; others may lie in it. */
  wideRange(stage: string): { readonly key: string; readonly range_end: string } {
    return { ...this.range(stage), key: this.note(stage) }
  }

  /**
   * What stands behind the stage in a key.
   *
   * @returns the name; `null` where the key is none of the stage
   */
  findName(stage: string, key: string): string | null {
    const text = Buffer.from(key, 'base64').toString('utf8')
    const start = `${this.#prefix}/${stage}/`
    return text.startsWith(start) ? text.slice(start.length) : null
  }
}
