import { STYLES } from './addresses.ts'
import type { Forbidden } from './off-limits.ts'

/** Nothing, in the language that the name of a file says. */
export function writeEmptyModule(id: string): string {
  if (STYLES.test(id)) return ''
  return /\.json5?(?:$|\?)/.test(id) ? 'null' : 'export default ""\n'
}

/** Exports of the same names, so that modules behind it can be linked. */
export async function writeExports({ code, target }: Forbidden): Promise<string> {
  if (code !== 'server-in-page') return 'export default undefined\n'
  const names = target === 'mappa-settings/node' ? Object.keys(await import('../../node/index.ts')) : ['settings']
  return `export const ${names.map((name) => `${name} = undefined`).join(', ')}\n`
}
