/**
 * The variable name that follows from a path in code.
 *
 * Capital letters begin a new word, and a row of them is one word; digits stay with the word before them.
 *
 * @param path the keys that lead to the setting
 * @param prefix what all names of the definition begin with
 * @example
 * ```ts
 * variableName(['visitor', 'starMapUrl'], '') // 'VISITOR_STAR_MAP_URL'
 * variableName(['dome', 'key'], 'FERN_')      // 'FERN_DOME_KEY'
 * ```
 */
export function variableName(path: readonly string[], prefix: string): string {
  const words = path.map((key) =>
    key
      .replace(/([a-z0-9])([A-Z])/g, '$1_$2')
      .replace(/([A-Z]+)([A-Z][a-z])/g, '$1_$2')
      .toUpperCase(),
  )
  return prefix + words.join('_')
}

/**
 * True for a key that can stand in a definition. Names that every object answers to are not: code that reads
 * them would get the object's own.
 */
export function isPathKey(key: string): boolean {
  return /^[A-Za-z][A-Za-z0-9_]*$/.test(key) && !(key in Object.prototype) && key !== 'then' && key !== 'toJSON'
}

/** True for a name that a stage can have. `.env.local` and `.env.example` mean something else already. */
export function isStageName(stage: unknown): stage is string {
  return typeof stage === 'string' && /^[a-z][a-z0-9-]{0,40}$/.test(stage) && stage !== 'local' && stage !== 'example'
}
