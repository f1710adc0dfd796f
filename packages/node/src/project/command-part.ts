import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { settingsError } from '@mappa/core/problems/settings-error'
import { version as own } from '@mappa/core/version'
import { fs } from '../fs/builtin.ts'

const { createRequire } = process.getBuiltinModule('node:module')
const { join } = process.getBuiltinModule('node:path')

/** What the library takes from the command of a project, by the names of its exports: it is large, and no program needs it. */
export type CommandPart = 'definition-loader' | 'parser' | 'patterns'

/**
 * Looks for a part of `mappa-cli`, which is an optional peer of the library.
 *
 * @param root the directory of the project
 * @returns the absolute path of the part; `null` if `mappa-cli` is not installed there
 * @throws {SettingsError} where it is, in a version that does not fit
 */
export function findCommandPart(root: string, part: CommandPart): string | null {
  const { resolve } = createRequire(join(root, 'package.json'))
  const manifest = resolveOrNull(resolve, 'mappa-cli/package.json')
  if (manifest === null) return null
  const found = readVersion(manifest)
  const file = resolveOrNull(resolve, `mappa-cli/${part}`)
  if (file !== null && isCompatible(found)) return file
  throw settingsError(definitionFileProblem('command-does-not-fit', { found: found ?? 'without a version', own }))
}

function resolveOrNull(resolve: (specifier: string) => string, specifier: string): string | null {
  try {
    return resolve(specifier)
  } catch {
    // Not installed, or installed without that export; the caller says which.
    return null
  }
}

function readVersion(manifest: string): string | null {
  const { version } = JSON.parse(fs.readFileSync(manifest, 'utf8')) as { version?: unknown }
  return typeof version === 'string' ? version : null
}

/** Two versions fit that differ in what is not breaking (semver.org 2.0.0): below 1.0.0 the minor version breaks, then the major one. */
function isCompatible(found: string | null): boolean {
  const line = (version: string) => (/^0\.\d+\./.exec(version) ?? /^\d+\./.exec(version))?.[0]
  return found !== null && line(found) === line(own)
}
