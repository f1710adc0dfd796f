import { fs, path } from '../builtin.ts'
import { packagesOf } from '../manifest.ts'

/** Where a new definition goes, relative to the root: into `src` where there is one, and in the project's language. */
export function definitionPlace(root: string): string {
  const has = (file: string) => fs.existsSync(path.join(root, file))
  const sources = ['.', 'src'].flatMap((folder) => (has(folder) ? fs.readdirSync(path.join(root, folder)) : []))
  const typescript =
    has('tsconfig.json') || 'typescript' in packagesOf(root) || sources.some((file) => /\.[cm]?tsx?$/.test(file))
  return `${has('src') ? 'src/' : ''}settings.definition.${typescript ? 'ts' : 'mjs'}`
}
