import { definitionFileProblem } from '@mappa/core/problems/catalogue/definition-files'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { toRelativePath } from '../../fs/places.ts'

/** What Node says of files that it would load if it knew their language. */
const REASONS: Readonly<Record<string, string>> = {
  ERR_UNKNOWN_FILE_EXTENSION: 'it does not load TypeScript',
  ERR_UNSUPPORTED_TYPESCRIPT_SYNTAX: 'it strips types only, and the file has syntax that has to be compiled',
  ERR_UNSUPPORTED_NODE_MODULES_TYPE_STRIPPING: 'it loads no TypeScript from node_modules',
}

/** Why Node can't load TypeScript; `null` if an error says something else. */
export function explainTypescript(error: unknown): string | null {
  const { code } = (error ?? {}) as { code?: unknown }
  return REASONS[String(code)] ?? null
}

/** True if this package is not installed beside the definition. The command brings its own. */
export function isPackageMissing(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  return code === 'ERR_MODULE_NOT_FOUND' && /package 'mappa-settings'/.test(String(message))
}

/** What to throw if nothing is there that loads the TypeScript of a definition. */
export function needsLoader(file: string, root: string, reason: string): SettingsError {
  const shown = toRelativePath(root, file)
  const details = { file: shown, node: process.versions.node, reason }
  return new SettingsError({
    stage: null,
    problems: [definitionFileProblem('definition-needs-loader', details, { file: shown })],
  })
}
