import { existsSync, readFileSync, statSync } from 'node:fs'
import { relative } from 'node:path'
import type { Declaration } from '../../core/definition/definition.ts'
import { isSearchable } from '../../core/guard/encodings.ts'
import { pageProblem } from '../../core/problems/of-pages.ts'
import type { Problem } from '../../core/problems/problem.ts'
import type { ResolvedSetting } from '../../core/resolve/resolved-setting.ts'
import { nearestOf } from '../../core/text/near.ts'
import { filesBelow } from '../../node/files-below.ts'
import { hitsInCode, type Needle, needleOf, plainHits } from '../../node/guard/needles.ts'
import type { Inspection } from '../../node/load.ts'

/** A value that is not looked for, and why, in words. */
export interface NotSearched {
  readonly name: string
  readonly reason: string
}

/** What must not be in a page. */
export interface Search {
  readonly needles: readonly Needle[]
  readonly notSearched: readonly NotSearched[]
}

/** The kinds whose values are numbers or one of a few words: they stand anywhere by chance. */
const COMMON_KINDS = new Set(['boolean', 'choice', 'integer', 'number', 'port', 'duration', 'size'])

/**
 * What to look for: the values of all secrets and of all other settings that are not public, in one stage.
 *
 * @param mayAppear private settings that may stand in the page
 */
export function searchFor({ settings }: Inspection, mayAppear: readonly string[]): Search {
  const needles: Needle[] = []
  const notSearched: NotSearched[] = []
  const shown = settings.filter(({ declaration, text }) => declaration.public && text)
  for (const { declaration, text, masked, value } of settings) {
    if (declaration.public) continue
    const { name, path } = declaration
    const skip = (reason: string) => notSearched.push({ name, reason })
    if (text === undefined || text === '') {
      if (masked || !declaration.optional) skip('it has no value here')
      continue
    }
    if (!masked && mayAppear.includes(name)) skip('it may appear')
    else if (!masked && COMMON_KINDS.has(declaration.kind.name)) skip(`a ${declaration.kind.name} is too common`)
    else if (!isSearchable(text)) skip('too short or too common')
    else {
      const other = masked ? undefined : shown.find((each) => each.text!.includes(text))
      if (other !== undefined) skip(`it is part of ${other.declaration.name}, which is public`)
      else for (const each of formsOf(text, value)) needles.push(needleOf(name, path, each))
    }
  }
  return { needles, notSearched }
}

/** A value as its file has it, and as programs get it, where that is a text too: keys get their line ends. */
function formsOf(text: string, value: unknown): string[] {
  return typeof value === 'string' && value !== text && isSearchable(value) ? [text, value] : [text]
}

/** Everything that is wrong with the names of settings that may appear. */
export function checkMayAppear(settings: readonly Declaration[], names: readonly string[]): Problem[] {
  return names.flatMap((name) => {
    const setting = settings.find((each) => each.name === name)
    const reason =
      setting === undefined
        ? 'no setting has that name'
        : setting.secret
          ? 'it is a secret'
          : setting.public
            ? 'it is public anyway'
            : null
    const near = setting === undefined ? nearestOf(settings.map((each) => each.name))(name) : null
    return reason === null ? [] : [pageProblem('may-appear-wrong', { name, reason, near }, { name })]
  })
}

/** Files that pages read as texts. */
const TEXTS = /\.(?:[cm]?js|css|html?|json|map|svg|xml|txt|webmanifest)$/i

/** How to look: for values in all ways in which they can be written, or as they stand alone, which is quick. */
export type Ways = 'all' | 'plain'

/** Looks through one file of a page, its name included. */
export function leaksIn(
  file: string,
  content: string | Uint8Array,
  { needles }: Search,
  settings: readonly ResolvedSetting[],
  ways: Ways = 'all',
): Problem[] {
  const bytes = typeof content === 'string' ? null : Buffer.from(content.buffer, content.byteOffset, content.byteLength)
  // What is read as a text by pages is one here, whatever bytes it holds.
  const given = bytes === null || TEXTS.test(file) ? (bytes ?? content).toString() : bytes
  const find = ways === 'all' ? hitsInCode : plainHits
  const named = find(file, needles).map((hit) => ({ ...hit, encoding: ', in its name' }))
  const hits = [...named, ...find(given, needles)]
  return hits.map(({ name, setting: path, encoding }) => {
    const secret = settings.some((each) => each.declaration.path === path && each.masked)
    // A name that gives a value away is not repeated.
    const shown = named.some((hit) => hit.name === name) ? 'a file' : file
    const place = { file: shown, name, setting: path }
    return secret
      ? pageProblem('value-in-page', { name, file: shown, encoding }, place)
      : pageProblem('private-in-page', { name, path, file: shown, encoding }, place)
  })
}

/** A file that is ready to be served. */
export interface ServedFile {
  /** Its path from the folder, with `/` between folders. */
  readonly file: string
  /** In bytes. */
  readonly size: number
  readonly read: () => Buffer
}

/** The files below a folder that is served; none where there is no folder. */
export function servedFiles(folder: string): ServedFile[] {
  if (!existsSync(folder)) return []
  return [...filesBelow(folder)].map((whole) => ({
    file: relative(folder, whole).replaceAll('\\', '/'),
    size: statSync(whole).size,
    read: () => readFileSync(whole),
  }))
}
