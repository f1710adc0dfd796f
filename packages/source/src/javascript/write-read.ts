import type { ReadVariable } from '../rewriting.ts'

/**
 * The expression that reads a setting, of the type that the value in its place had.
 *
 * @param form what the value was written as
 * @param language TypeScript has to be told that a variable of the environment is there
 * @example
 * ```ts
 * writeRead({ name: 'DOME_PORT', form: 'number', secret: false }, 'number', 'typescript') // 'Number(process.env.DOME_PORT)'
 * ```
 */
export function writeRead(
  { name, form: type, expression }: ReadVariable,
  form: ReadVariable['form'],
  language: 'javascript' | 'typescript',
): string {
  if (expression !== undefined && form === type) return expression
  if (expression !== undefined) return form === 'number' ? `Number(${expression})` : `String(${expression})`
  const variable = `process.env.${name}`
  if (form === 'number') return `Number(${variable})`
  return language === 'typescript' ? `${variable}!` : variable
}
