// What programs can import of the library is listed once, in its "exports". Builds, types, the API reference and tests take it from here.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './steps.mjs'

export const LIBRARY = join(root, 'packages/mappa-settings')

const { exports: listed } = JSON.parse(readFileSync(join(LIBRARY, 'package.json'), 'utf8'))

/**
 * The entries of the library: what follows `mappa-settings/`, or `index` for the library itself, with the path of the source in its
 * package. Schemas and the like, which are no code, are not among them.
 *
 * @type {Readonly<Record<string, string>>}
 */
export const entries = Object.fromEntries(
  Object.values(listed)
    .filter((target) => typeof target === 'object')
    .map((target) => /^\.\/dist\/(.+)\.js$/.exec(target.default)[1])
    .map((name) => [name, name === 'index' ? 'src/index.ts' : `src/${name}/index.ts`]),
)

/** What the API reference is made of, as words for TypeDoc. */
export const referenceInput = Object.values(entries).flatMap((file) => [
  '--entryPoints',
  `packages/mappa-settings/${file}`,
])
