import { fs, path } from '@mappa/node/fs/builtin'
import { isRegularFile } from '@mappa/node/fs/regular-file'
import { createPathsMatcher, getTsconfig, type TsConfigResult } from 'get-tsconfig'

/** Finds the source file that a module names; `null` for packages and for what is not there. */
export type ModuleResolver = (specifier: string, importer: string) => string | null

/**
 * Finds modules as the compiler and bundlers do: by relative paths, with or without endings, and by the path aliases of
 * `tsconfig.json` (`paths`), also of those that it extends.
 *
 * @param root the directory of the project
 */
export function moduleResolver(root: string): ModuleResolver {
  const config = compilerConfig(root)
  const aliases = config === null ? null : createPathsMatcher(config)
  return (specifier, importer) => {
    if (/^\.\.?(\/|$)/.test(specifier)) return findSource(path.resolve(path.dirname(importer), specifier))
    for (const each of aliases?.(specifier) ?? []) {
      const found = findSource(each)
      if (found !== null && !/[\\/]node_modules[\\/]/.test(found)) return found
    }
    return null
  }
}

/** The configuration of the compiler, with what it extends; `null` where there is none that can be read. */
export function compilerConfig(root: string): TsConfigResult | null {
  if (!fs.existsSync(path.join(root, 'tsconfig.json'))) return null
  try {
    return getTsconfig(root)
  } catch {
    return null
  }
}

const ENDINGS = ['ts', 'tsx', 'js', 'jsx', 'mjs', 'mts']

/** The file that a path means: as it is written, with an ending, compiled from TypeScript, or a directory. */
export function findSource(whole: string): string | null {
  const stem = whole.replace(/\.[cm]?jsx?$/, '')
  const candidates = [
    whole,
    ...ENDINGS.map((each) => `${whole}.${each}`),
    ...ENDINGS.map((each) => `${stem}.${each}`),
    ...ENDINGS.map((each) => path.join(whole, `index.${each}`)),
  ]
  return candidates.find((each) => isRegularFile(each)) ?? null
}
