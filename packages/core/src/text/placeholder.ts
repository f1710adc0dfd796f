/**
 * What stands in the example file where a value is to be filled in. No setting accepts it, so a placeholder that was
 * copied and forgotten is found whatever the setting allows otherwise.
 *
 * @param name the variable name
 * @example
 * ```ts
 * toPlaceholder('DOME_KEY') // '<DOME_KEY>'
 * ```
 */
export function toPlaceholder(name: string): string {
  return `<${name}>`
}
