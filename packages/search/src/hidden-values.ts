import { holdsCredential } from '@mappa/core/credentials/credentials'
import { isHarmless } from '@mappa/core/credentials/harmless'
import { classifyMeaning } from '@mappa/core/credentials/words'
import type { Layer } from '@mappa/core/layers/layer'
import { listSaid } from '@mappa/core/layers/merge'
import type { Resolution } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'

/** A value that stands in a layer, and that no program gets. */
export interface HiddenValue {
  readonly name: string
  readonly path: string
  readonly text: string
  /** True where it belongs to a setting that is a secret. */
  readonly isOfSecret: boolean
  readonly isDeclared: boolean
}

/**
 * Values that no program gets, and that open something all the same: where a higher layer or a later line has another one, under
 * former names, and of variables that no setting declares.
 *
 * @param isMeant tells the settings of which lower values count
 */
export function listHiddenValues(
  { settings, layers, getText: textOf }: Resolution,
  isMeant: (setting: ResolvedSetting) => boolean,
): readonly HiddenValue[] {
  const covered = settings.filter(isMeant).flatMap(({ declaration, text: inUse, masked }) => {
    const { name, path, formerly } = declaration
    const texts = [name, ...formerly].flatMap((each) =>
      listSaid(layers, each)
        .filter(({ layer }) => layer.kind !== 'defaults')
        .map((said) => textOf(each, said).text),
    )
    return [...new Set(texts)].flatMap((text = '') =>
      text === inUse ? [] : [{ name, path, text, isOfSecret: masked, isDeclared: true }],
    )
  })
  const declared = new Set(settings.flatMap(({ declaration: { name, formerly } }) => [name, ...formerly]))
  const undeclared = layers.flatMap((layer) =>
    listNames(layer).flatMap((name) => {
      const value = declared.has(name) ? undefined : layer.get(name)?.value
      return typeof value === 'string' && opensSomething(name, value)
        ? [{ name, path: name, text: value, isOfSecret: false, isDeclared: false }]
        : []
    }),
  )
  return [...covered, ...undeclared].filter(({ text }) => text !== '')
}

/** The names in files: those of the process environment belong to others. */
function listNames({ kind, names, sharedNames }: Layer): readonly string[] {
  return kind === 'file' ? (sharedNames ?? names)() : names()
}

/** True for the value of a variable without a setting that says by its name or by itself that it opens something. */
export function opensSomething(name: string, value: string): boolean {
  return (holdsCredential(value) || classifyMeaning([name]) === 'secret') && !isHarmless(name, value)
}
