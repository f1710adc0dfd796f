import { existsSync, readFileSync } from 'node:fs'
import { relative } from 'node:path'
import type { Problem } from '@mappa/core/problems/problem'
import { describeSkip } from '@mappa/core/problems/skip-reasons'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { explainUnsearchable } from '@mappa/core/values/encodings'
import type { Skipped } from '@mappa/node/fs/read-file'
import type { Inspection } from '@mappa/node/load/inspect'
import { listHiddenValues } from '@mappa/search/hidden-values'
import { bytewise, findHitsInCode, MAX_PARTS, type SearchedSecret, toNeedles } from '@mappa/search/needles'
import type { ProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'
import type { NotSearched, Search } from './wanted.ts'

export { bytewise } from '@mappa/search/needles'
export { findLeaks } from './find-leaks.ts'
export { listServedFiles } from './served-files.ts'
export { type Place, ValueFiles } from './value-files.ts'

const chooseArticle = (word: string) => (/^[aeiou]/.test(word) ? 'an' : 'a')

/**
 * What to look for: the values of all secrets and of all other settings that are not public, in one stage.
 *
 * @param allowInPage private settings that may stand in the page
 */
export function prepareSearch(inspection: Inspection, allowInPage: readonly string[]): Search {
  const { settings } = inspection
  const needles: SearchedSecret[] = []
  const notSearched: NotSearched[] = []
  const shown = settings.filter(({ declaration, text }) => declaration.public && text)
  for (const each of settings) {
    const { name, path } = each.declaration
    const reason = explainSkip(each, allowInPage)
    if (reason !== null) notSearched.push({ name, reason })
    if (reason !== null || !each.text || each.declaration.public) continue
    const found = toNeedles(name, path, each.text, each.value)
    const other = each.masked ? undefined : shown.find(({ text }) => text!.includes(each.text!))
    if (found.length === 0) notSearched.push({ name, reason: explainUnsearchable(each.text) ?? 'too common' })
    else if (other !== undefined)
      notSearched.push({ name, reason: `it is part of ${other.declaration.name}, which is public` })
    else needles.push(...found)
    if (found.length === MAX_PARTS)
      notSearched.push({ name, reason: `only ${MAX_PARTS} of its parts are searched for` })
  }
  needles.push(...listHiddenNeedles(inspection, new Set(allowInPage)))
  return { needles, notSearched }
}

/** Why there is nothing to look for, or why it is not looked for; `null` for what is, and for what may be in a page anyway. */
function explainSkip({ declaration, text, masked }: ResolvedSetting, allowInPage: readonly string[]): string | null {
  const { name, kind, optional } = declaration
  if (declaration.public) return null
  if (!text) return masked || !optional ? 'it has no value here' : null
  if (!masked && allowInPage.includes(name)) return 'it may appear'
  if (masked) return null
  if (kind.type.isCommon === true) return `${chooseArticle(kind.name)} ${kind.name} is too common`
  return explainUnsearchable(text) === null && isMadeOfWords(text) ? 'too common: words alone' : null
}

/** True for one word or several, such as `admin, editor` and `same-origin`, which pages have for other reasons. */
function isMadeOfWords(text: string): boolean {
  const words = text.split(/[\s,;|[\]"']+/).filter((each) => each !== '')
  return words.length > 0 && words.every((each) => /^[a-z]{1,15}(?:-[a-z]{1,15}){0,2}$/i.test(each))
}

/** What stands in layers, and no program gets, of settings that are not public. */
function listHiddenNeedles(inspection: Inspection, allowInPage: ReadonlySet<string>): SearchedSecret[] {
  const shown = new Set(
    inspection.settings.flatMap(({ declaration, text }) => (declaration.public && text ? [text] : [])),
  )
  // A public value that refers to a variable was meant to be made of it.
  const meant = new Set(inspection.settings.flatMap(({ declaration, from }) => (declaration.public ? [...from] : [])))
  const hidden = listHiddenValues(
    inspection,
    ({ declaration: { public: isPublic, kind, name }, masked }) =>
      !isPublic && (masked || !(kind.type.isCommon === true || allowInPage.has(name))),
  )
  return hidden
    .filter(
      ({ name, text, isOfSecret, isDeclared }) =>
        isOfSecret || !(shown.has(text) || meant.has(name) || (isDeclared && isMadeOfWords(text))),
    )
    .flatMap(({ name, path, text }) => toNeedles(name, path, text))
}

/**
 * Looks for everything once in a text that does hold it, in pieces. A value that is not found there would not be found in a page,
 * and no search may be silent about that.
 */
export function verifySearch({ needles, notSearched }: Search): Search {
  const sample = needles.map(({ patterns: [plain] }) => {
    const half = plain!.text.length >> 1
    return `${JSON.stringify(plain!.text.slice(0, half))} + ${JSON.stringify(plain!.text.slice(half))}`
  })
  const found = new Set(findHitsInCode(sample.join(';\n'), needles).map(({ name }) => name))
  const lost = new Set(needles.map(({ name }) => name).filter((name) => !found.has(name)))
  if (lost.size === 0) return { needles, notSearched }
  const reason = 'it was not found in a sample that contains it'
  return { needles, notSearched: [...notSearched, ...[...lost].map((name) => ({ name, reason }))] }
}

/** The module that a value in a page comes from, for a person: a file, or what made it. */
export function getSource(id: string, { name }: Problem, { state, config }: Session): string {
  const setting = getSetting(id, state)
  if (setting !== null) return `by ${setting}, which is public and has the same value`
  const file = id.replace(/^\0/, '').replace(/[?#].*$/, '')
  const text = existsSync(file) ? bytewise(readFileSync(file)) : ''
  const needles = name === null ? [] : prepareSearch(state.inspection!, []).needles.filter((each) => each.name === name)
  const defined = Object.entries(config?.define ?? {}).find(
    ([, value]) =>
      findHitsInCode(bytewise(typeof value === 'string' ? value : JSON.stringify(value)), needles).length > 0,
  )
  const isOfFile = text !== '' && findHitsInCode(text, needles).length > 0
  if (!isOfFile && defined !== undefined) return `by ${defined[0]}, which the configuration of Vite defines`
  return `from ${relative(state.root, file)}`
}

/** The setting that a module of ours stands for. */
function getSetting(id: string, { definition }: ProjectState): string | null {
  const path = /^\0virtual:mappa\/browser\/(?:settings|values)\.?([\w.]*)/.exec(id)?.[1]
  if (path === undefined) return null
  const inside = definition?.settings.filter((each) => each.public && each.path.startsWith(path)) ?? []
  return inside.map((each) => each.name).join(' or ') || null
}

/** The same, with the files of values that could not be read: nobody looks for copies of them. */
export function addNotRead({ needles, notSearched }: Search, notRead: readonly Skipped[]): Search {
  const copies = notRead.map(({ file, why }) => ({ name: `copies of ${file}`, reason: describeSkip(why) }))
  return { needles, notSearched: [...notSearched, ...copies] }
}
