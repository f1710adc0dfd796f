import { fillPage, hasPayloadPlace, type PayloadOptions, payloadElement } from '@mappa/core/page/payload'
import { publicValueProblem } from '@mappa/core/problems/catalogue/public-values'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '../fs/builtin.ts'
import { walkFiles } from '../fs/files-below.ts'
import { replaceFile } from '../fs/replace-file.ts'

/**
 * Puts the runtime settings into every built page of a directory that has a place for them, so that a host of plain files can
 * serve it. Called again with other settings, it replaces them: one build serves every stage.
 *
 * @param directory the directory with the built pages, and directories in it
 * @param settings what `loadSettings` gave back, whole
 * @param options what pages may have
 * @returns the pages that have the values now, relative to the directory
 * @throws {SettingsError} where no page has a place for them
 * @example
 * ```ts
 * fillPages('dist', loadSettings(definition, { stage: 'staging' }))
 * ```
 */
export function fillPages(directory: string, settings: object, options: PayloadOptions = {}): string[] {
  const pages = [...walkFiles(path.resolve(directory))]
    .filter((file) => /\.html?$/i.test(file))
    .map((file) => [file, fs.readFileSync(file, 'utf8')] as const)
    .filter(([, html]) => hasPayloadPlace(html))
  if (pages.length === 0) {
    const details = { directory, element: payloadElement('') }
    throw new SettingsError({
      title: 'Pages',
      stage: null,
      problems: [publicValueProblem('pages-without-place', details)],
    })
  }
  // All of them are made before one is written.
  const filled = pages.map(([file, html]) => [file, html, fillPage(html, settings, options)] as const)
  for (const [file, before, after] of filled) if (after !== before) replaceFile(file, after)
  return filled.map(([file]) => path.relative(directory, file))
}
