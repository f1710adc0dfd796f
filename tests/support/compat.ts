import { existsSync, mkdirSync, symlinkSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { REPOSITORY } from './project.ts'

export const COMPAT = join(REPOSITORY, 'tests/compat')

/** Imports a package that only tests of how Mappa gets along with others need; `tests/compat` has them, with a lock file of its own. */
export async function importCompat<Module>(name: string): Promise<Module> {
  const { importPackage } = (await import(pathToFileURL(join(COMPAT, 'import.mjs')).href)) as {
    importPackage: (name: string) => Promise<Module>
  }
  return importPackage(name)
}

/** Puts packages where a project of a test finds them. */
export function linkPackages(root: string, names: readonly string[]): void {
  for (const name of names) {
    const place = [COMPAT, REPOSITORY]
      .map((each) => join(each, 'node_modules', name))
      .find((directory) => existsSync(directory))
    if (place === undefined) throw new Error(`${name} is not installed.`)
    mkdirSync(dirname(join(root, 'node_modules', name)), { recursive: true })
    symlinkSync(place, join(root, 'node_modules', name))
  }
}
