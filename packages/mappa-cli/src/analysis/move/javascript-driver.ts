import type { TextEdit } from '@mappa/core/text/edits'
import { parseSource } from '@mappa/source/javascript/parser'
import { blankPreceding, type CodePart, runsOnServer, splitCode } from '@mappa/source/script-parts'
import { writePath } from './access-expression.ts'
import { runsElsewhere } from './browser-files.ts'
import { type ChangedFile, type FoundValue, findValues } from './found-values.ts'
import { findSettingsImport, type SettingsImport } from './imports.ts'
import { toVariable } from './language-driver.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import { rewriteValues, staysReadable } from './rewrite-values.ts'
import type { SourceChange, SourceDriver } from './source-driver.ts'

/** A source in JavaScript or TypeScript, or with scripts of it. */
export interface JavaScriptSource extends ChangedFile {
  /** The absolute path. */
  readonly whole: string
  /** True for a file of a page. */
  readonly ofPage: boolean
  /** True in a project that makes apps for devices. */
  readonly isMobile: boolean
}

/** Changes JavaScript: settings are imported, or read from the environment. */
export function makeJavaScriptDriver(source: JavaScriptSource): SourceDriver {
  return {
    rewriting: source.rewriting,
    readsSettings: true,
    template: null,
    clearsOutputs: false,
    findObstacle: (wanted) =>
      findFileObstacle(source) ?? (staysReadable(source, wanted) ? null : makeObstacle('unsure')),
    findPlaces: (wanted) => findValues(source, wanted) ?? [],
    listOutputs: () => [],
    rewrite: (change) => rewriteJavaScript(source, change),
  }
}

/** Puts the reading of settings in the place of values, and adds the import where it is missing. */
function rewriteJavaScript(source: JavaScriptSource, change: SourceChange): string {
  const { file } = source
  const { wanted, ofPage, settingOf, listStays, as } = change
  const imports = as === 'settings' || ofPage ? new PartImports(source, change) : null
  return rewriteValues(source, {
    wanted,
    listStays,
    chooseVariable: (found, text) => {
      const setting = settingOf(found.wanted)
      const variable = toVariable(setting)
      if (setting === undefined || variable === null || imports === null) return variable
      const local = imports.getLocal(findPart(text, file, found.start))
      return local === null ? null : { ...variable, expression: writePath(setting, local) }
    },
    complete: (edits) => (imports === null ? edits : [...imports.listEdits(edits), ...edits]),
  })
}

/** Which of the scripts of a file an offset lies in, from 0. Edits do not add any. */
function findPart(text: string, file: string, at: number): number {
  return splitCode(text, file).findIndex(({ start, end }) => start <= at && at < end)
}

/** How the scripts of a file get at the settings, each for itself. */
class PartImports {
  readonly #imports: readonly (SettingsImport | null)[]
  readonly #parts: readonly CodePart[]
  readonly #text: string

  constructor(source: JavaScriptSource, change: SourceChange) {
    this.#text = source.text
    this.#parts = splitCode(source.text, source.file)
    const values = findValues(source, change.wanted) ?? []
    this.#imports = this.#parts.map((part) => findPartImport(source, part, values, change))
  }

  /** The name of the settings in a script; `null` for one that can't be understood. */
  getLocal(part: number): string | null {
    return this.#imports[part]?.local ?? null
  }

  /** The edits that add what is missing to the scripts that some edits change. */
  listEdits(edits: readonly TextEdit[]): readonly TextEdit[] {
    return this.#parts.flatMap(({ start, end }, part) => {
      const own = this.#imports[part]?.edit ?? null
      const isChanged = edits.some(({ from }) => start <= from && from < end)
      return own === null || !isChanged ? [] : [within(own, this.#text, start)]
    })
  }
}

function findPartImport(
  { text, whole }: JavaScriptSource,
  part: CodePart,
  values: readonly FoundValue[],
  { module, moduleType }: SourceChange,
): SettingsImport | null {
  const code = blankPreceding(text, part)
  const tree = parseSource(code, part.file)
  if (tree === null) return null
  const own = values.map(({ start }) => start).filter((start) => part.start <= start && start < part.end)
  // A script in a component is always a module.
  const type = part.start > 0 ? 'module' : moduleType
  return findSettingsImport({ text: code, tree, file: whole, moduleType: type }, module, Math.min(...own))
}

/** An import of a script stands in it, on a line of its own. */
function within(edit: TextEdit, text: string, start: number): TextEdit {
  if (start === 0 || edit.from > start) return edit
  const eol = text.includes('\r\n') ? '\r\n' : '\n'
  const [, margin = ''] = /^\s*?\n?([ \t]*)\S/.exec(text.slice(start)) ?? []
  const statement = `${margin}${edit.by.trim()}`
  if (text[start - 1] === '\n') return { from: start, to: start, by: `${statement}${eol}` }
  const isOnOwnLine = /^[ \t]*\r?\n/.test(text.slice(start))
  return { from: start, to: start, by: `${eol}${statement}${isOnOwnLine ? '' : eol}` }
}

/** What keeps the code of a file from being changed; `null` where nothing does. */
function findFileObstacle({ text, file, ofPage, isMobile }: JavaScriptSource): Obstacle | null {
  const parts = splitCode(text, file)
  const trees = parts.map((part) => parseSource(blankPreceding(text, part), part.file))
  if (trees.length === 0 || trees.some((each) => each === null)) return makeObstacle('syntax')
  if (ofPage || (parts.every(({ runsInPage }) => runsInPage) && !runsOnServer(file))) return makeObstacle('browser')
  const elsewhere = runsOnServer(file) ? null : runsElsewhere(trees[0]!)
  if (elsewhere !== null) return makeObstacle(isMobile && elsewhere === 'browser' ? 'mobile' : elsewhere)
  // Configuration of tools runs on the machine of a developer.
  return isMobile && !/\.config\.[cm]?[jt]s$/.test(file) ? makeObstacle('mobile') : null
}
