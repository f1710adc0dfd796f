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
 * The expression of the typed settings that has the value of a setting.
 *
 * @param local the name under which the file knows the settings
 * @example
 * ```ts
 * const key = { keys: ['dome', 'key'], name: 'DOME_KEY', secret: true, type: 'text' } as const
 * writePath(key, 'settings') // settings.dome.key.reveal()
 * ```
 */
export function writePath({ keys, secret }: ReadSetting, local: string): string {
  return `${local}.${keys.join('.')}${secret ? '.reveal()' : ''}`
}
