import { applyEdits, type TextEdit } from '@mappa/core/text/edits'
import { parseSource } from '@mappa/source/javascript/parser'
import { blankPreceding, type CodePart, splitCode } from '@mappa/source/script-parts'
import { type ReadSetting, writeAccess } from './access-expression.ts'
import { runsElsewhere } from './browser-files.ts'
import { findSettingsImport } from './imports.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import { findOccurrences, type Occurrence, type Wanted } from './occurrences.ts'
import type { SourceChange, SourceDriver } from './source-driver.ts'

/** A source in JavaScript or TypeScript, or with scripts of it. */
export interface JavaScriptSource {
  /** The absolute path. */
  readonly whole: string
  readonly file: string
  readonly text: string
  /** True for a file of a page. */
  readonly ofPage: boolean
  /** True in a project that makes apps for devices. */
  readonly isMobile: boolean
}

/** Changes JavaScript: settings are imported, or read from the environment. */
export function makeJavaScriptDriver(source: JavaScriptSource): SourceDriver {
  const { file, text } = source
  return {
    rewriting: null,
    template: null,
    clearsOutputs: false,
    findObstacle: () => findFileObstacle(source),
    findPlaces: (wanted) => findOccurrencesPerPart(text, file, wanted),
    listOutputs: () => [],
    rewrite: (change) => rewriteJavaScript(source, change),
  }
}

/** Where values stand in the code of a file: of all of it, or of the scripts of a component. */
function findOccurrencesPerPart(text: string, file: string, wanted: readonly Wanted[]): readonly Occurrence[] {
  return splitCode(text, file).flatMap((part) => {
    const occurrences = findOccurrences(blankPreceding(text, part), part.file, wanted) ?? []
    const obstacle = part.runsInPage && isOfServer(file) ? makeObstacle('browser') : null
    return obstacle === null ? occurrences : occurrences.map((each) => ({ ...each, obstacle }))
  })
}

/** True for a component whose scripts run in pages, while its other code runs on a server. */
const isOfServer = (file: string) => /\.astro$/i.test(file)

/** Puts the reading of settings in the place of values, and adds the import where it is missing. */
function rewriteJavaScript({ whole, file, text }: JavaScriptSource, change: SourceChange): string {
  // From the last on, so that the others stay where they are.
  return splitCode(text, file).reduceRight((before, part) => {
    if (part.runsInPage && isOfServer(file)) return before
    const code = blankPreceding(before, part)
    const after = rewritePart(code, part, whole, change)
    return before.slice(0, part.start) + after.slice(part.start) + before.slice(part.end)
  }, text)
}

function rewritePart(
  text: string,
  { file, start }: CodePart,
  whole: string,
  { wanted, ofPage, as, module, moduleType, settingOf, staysAt }: SourceChange,
): string {
  const tree = parseSource(text, file)
  if (tree === null) return text
  const isModule = file !== whole && start > 0 ? 'module' : moduleType
  const occurrences = findOccurrences(text, file, wanted) ?? []
  const firstUse = Math.min(...occurrences.map((each) => each.start))
  const usesSettings = as === 'settings' || ofPage
  const imported = usesSettings ? findSettingsImport(text, tree, whole, module, isModule, firstUse) : null
  const access = { settings: imported?.local ?? null, typescript: /\.[cm]?tsx?$/.test(file) }
  const listEdits = (occurrences: readonly Occurrence[]) => {
    const changed = new Set<number>()
    return occurrences.flatMap((each) => {
      const setting = settingOf(each.wanted)
      // Of several values in one text, one goes at a time.
      if (each.obstacle !== null || setting === undefined || changed.has(each.start)) return []
      const staysOnPage = ofPage && (setting.secret || staysAt(each.start))
      if (staysOnPage) return []
      changed.add(each.start)
      return [toEdit(each, setting, access)]
    })
  }
  const first = listEdits(occurrences)
  if (first.length === 0) return text
  let after = applyEdits(text, imported?.edit == null ? first : [...first, within(imported.edit, text, start)])
  // Places that were found are elsewhere now. What stays on a page was told by its place, too.
  const others = wanted.filter(({ reach }) => reach === 'everywhere' || (reach === 'address' && !ofPage))
  for (let round = 0; round < 8; round++) {
    const more = listEdits(findOccurrences(after, file, others) ?? [])
    if (more.length === 0) break
    after = applyEdits(after, more)
  }
  return after
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

/** The edit that puts the reading of a setting in the place of its value. */
function toEdit(each: Occurrence, setting: ReadSetting, how: Parameters<typeof writeAccess>[2]): TextEdit {
  const isFallback = each.fallback !== null && each.fallback.variable === setting.name
  const isNumber = how.settings !== null && setting.type === 'number'
  if (isNumber && each.asNumber !== null && (each.fallback === null || isFallback))
    return each.asNumber(writeAccess(setting, 'number', how))
  const place = isFallback ? each.fallback! : each
  return place.replaceOccurrence(writeAccess(setting, each.form, how))
}

/** What keeps the code of a file from being changed; `null` where nothing does. */
function findFileObstacle({ text, file, ofPage, isMobile }: JavaScriptSource): Obstacle | null {
  const parts = splitCode(text, file)
  const trees = parts.map((part) => parseSource(blankPreceding(text, part), part.file))
  if (trees.length === 0 || trees.some((each) => each === null)) return makeObstacle('syntax')
  if (ofPage || (parts.every(({ runsInPage }) => runsInPage) && !isOfServer(file))) return makeObstacle('browser')
  const elsewhere = isOfServer(file) ? null : runsElsewhere(trees[0]!)
  if (elsewhere !== null) return makeObstacle(isMobile && elsewhere === 'browser' ? 'mobile' : elsewhere)
  // Configuration of tools runs on the machine of a developer.
  return isMobile && !/\.config\.[cm]?[jt]s$/.test(file) ? makeObstacle('mobile') : null
}
