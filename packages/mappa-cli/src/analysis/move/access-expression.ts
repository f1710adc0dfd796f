/** How the code reads what was moved: through the typed settings, or from the environment of the process. */
export type AccessStyle = 'settings' | 'environment'

/** A setting that code is to read. */
export interface ReadSetting {
  readonly keys: readonly string[]
  readonly name: string
  readonly secret: boolean
  /** What the setting's value is in code. */
  readonly type: 'text' | 'number'
}

/**
 * The expression that stands where a value stood, and is of the same type.
 *
 * @param form what the value was written as
 * @param settings the name under which the typed settings are known in the file; `null` to read the environment
 * @param typescript true where the compiler has to be told that a variable of the environment is there
 * @example
 * ```ts
 * const key = { keys: ['dome', 'key'], name: 'DOME_KEY', secret: true, type: 'text' } as const
 * writeAccess(key, 'text', { settings: 'settings', typescript: true }) // settings.dome.key.reveal()
 * writeAccess(key, 'text', { settings: null, typescript: false })      // process.env.DOME_KEY
 * ```
 */
export function writeAccess(
  { keys, name, secret, type }: ReadSetting,
  form: 'text' | 'number',
  { settings, typescript }: { readonly settings: string | null; readonly typescript: boolean },
): string {
  if (settings === null) {
    const variable = `process.env.${name}`
    if (form === 'number') return `Number(${variable})`
    return typescript ? `${variable}!` : variable
  }
  const value = `${settings}.${keys.join('.')}${secret ? '.reveal()' : ''}`
  if (form === type) return value
  return form === 'number' ? `Number(${value})` : `String(${value})`
}
