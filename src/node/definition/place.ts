import { fs, path } from '../builtin.ts'
import { packagesOf } from '../manifest.ts'

/** Where a new definition goes, relative to the root: into `src` where there is one, and in the project's language. */
export function definitionPlace(root: string): string {
  const has = (file: string) => fs.existsSync(path.join(root, file))
  const typescript = has('tsconfig.json') || 'typescript' in packagesOf(root)
  return `${has('src') ? 'src/' : ''}settings.definition.${typescript ? 'ts' : 'mjs'}`
}
