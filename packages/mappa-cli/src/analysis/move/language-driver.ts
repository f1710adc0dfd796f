import { applyEdits } from '@mappa/core/text/edits'
import { fs, path } from '@mappa/node/fs/builtin'
import type { ReadVariable } from '@mappa/source/rewriting'
import type { ReadSetting } from './access-expression.ts'
import { type ChangedFile, findValues } from './found-values.ts'
import { makeObstacle } from './obstacles.ts'
import { rewriteValues, staysReadable } from './rewrite-values.ts'
import type { SourceDriver } from './source-driver.ts'

/**
 * Changes a language that reads variables, or makes a template of a file that can't.
 *
 * @param whole the absolute path of the file
 */
export function makeLanguageDriver(
  changed: ChangedFile,
  { whole, template, clearsOutputs }: Pick<SourceDriver, 'template' | 'clearsOutputs'> & { readonly whole: string },
): SourceDriver {
  const { rewriting, text } = changed
  return {
    rewriting,
    readsSettings: false,
    template,
    clearsOutputs,
    findObstacle: (wanted) => {
      if (template !== null && fs.existsSync(path.join(path.dirname(whole), path.basename(template))))
        return makeObstacle('template-there', { file: template })
      if (findValues(changed, wanted) === null) return makeObstacle('syntax')
      return staysReadable(changed, wanted) ? null : makeObstacle('unsure')
    },
    findPlaces: (wanted) => findValues(changed, wanted) ?? [],
    listOutputs: () => rewriting.outputs?.ranges(text) ?? [],
    rewrite: ({ wanted, settingOf, listStays, gone }) => {
      const after = rewriteValues(changed, {
        wanted,
        listStays,
        chooseVariable: (found) => toVariable(settingOf(found.wanted)),
      })
      return clearsOutputs ? applyEdits(after, rewriting.outputs!.clear(after, gone)) : after
    },
  }
}

/** The variable that a setting has. */
export function toVariable(setting: ReadSetting | undefined): ReadVariable | null {
  if (setting === undefined) return null
  const { name, type, secret } = setting
  return { name, form: type, secret }
}
