import { fs, path } from '@mappa/node/fs/builtin'
import { listPackages } from '../manifest.ts'

/** Where a new definition goes, relative to the root: into `src` where there is one, and in the project's language; JSON is for all. */
export function definitionPlace(root: string): string {
  const has = (file: string) => fs.existsSync(path.join(root, file))
  const sources = ['.', 'src'].flatMap((directory) =>
    has(directory) ? fs.readdirSync(path.join(root, directory)) : [],
  )
  const typescript =
    has('tsconfig.json') || 'typescript' in listPackages(root) || sources.some((file) => /\.[cm]?tsx?$/.test(file))
  const javascript = has('package.json') || sources.some((file) => /\.[cm]?jsx?$/.test(file))
  if (!typescript && !javascript) return 'settings.definition.json'
  return `${has('src') ? 'src/' : ''}settings.definition.${typescript ? 'ts' : 'mjs'}`
}
