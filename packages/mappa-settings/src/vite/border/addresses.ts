import { existsSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { toPosition } from '@mappa/core/text/position'
import type { ProjectState } from '../session/project-state.ts'
import { offLimits } from './off-limits.ts'

/** Styles, whatever language they are written in, also those within components. */
export const STYLES =
  /\.(?:css|less|sass|scss|styl|stylus|pcss|postcss|sss)(?:$|\?)|[?&]lang\.(?:css|less|sass|scss|styl)/

/** How addresses of files are written: in code beside `import.meta.url`, in styles, in pages. The last group that fits is the address. */
const WRITTEN = {
  code: /\bnew\s+URL\s*\(\s*(?:\/\*.*?\*\/\s*)*(["'`])((?:(?!\1)[^\\\n])+)\1/g,
  // Any text may be one: behind @import and composes, in url() and image-set().
  styles: /\burl\(\s*([^"')\s]+)|(["'])((?:(?!\2)[^\\\n])+)\2/g,
  page: /\s(?:src|href|xlink:href|poster|data|srcset|imagesrcset|content|action|background)\s*=\s*(?:(["'])(.*?)\1|([^\s"'>]+))|\burl\(\s*["']?([^"')\s]+)/gis,
} as const

/** The elements of a page, and its styles. What the modules of a page import is known by their graph. */
const ELEMENT = /<(?!script\b[^>]*\btype\s*=\s*["']?module)[a-z][^<>]*>|(?<=<style[^>]*>)[^<]+/gi

function* findAddresses(
  text: string,
  language: keyof typeof WRITTEN,
): Generator<readonly [address: string, at: number]> {
  const parts = language === 'page' ? [...text.matchAll(ELEMENT)] : [{ 0: text, index: 0 }]
  for (const { 0: part, index: start } of parts)
    for (const match of part.matchAll(WRITTEN[language])) {
      const address = match.slice(1).findLast((each) => each !== undefined) ?? ''
      // Several pictures stand in one attribute, each with its size.
      const pieces = language === 'page' ? address.split(/\s*,\s+|\s+/) : [address]
      for (const piece of pieces) yield [piece, start + match.index]
    }
}

/** Scripts of a page that are modules; where its modules lead to is known by their graph, and that they come from here is not. */
const MODULE_SCRIPT =
  /<script\b(?=[^>]*\btype\s*=\s*["']?module)[^>]*?\ssrc\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s"'>]+))/gi

/** Finds module scripts of a page that no page may have, each with its place. */
export function findForbiddenScripts(
  html: string,
  file: string,
  directories: Directories,
  state: ProjectState,
): Problem[] {
  return [...html.matchAll(MODULE_SCRIPT)].flatMap(({ 1: one, 2: two, 3: three, index }) => {
    const forbidden = listTargets(one ?? two ?? three ?? '', file, directories)
      .map(offLimits(state).file)
      .find((each) => each !== null)
    if (forbidden == null) return []
    return pageProblem('entry-in-page', { target: forbidden.target }, toPlace(html, index, file, state))
  })
}

function toPlace(text: string, at: number, file: string, { root }: ProjectState) {
  return { file: relative(root, file), ...toPosition(text, at) }
}

/** Where a file is looked for by its address. */
export interface Directories {
  readonly root: string
  /** What is served as it is; empty where nothing is. */
  readonly publicDir: string
}

/**
 * Finds the addresses in a file that lead to what no page may reach.
 *
 * @param file its absolute path
 */
export function findForbiddenAddresses(
  text: string,
  file: string,
  language: keyof typeof WRITTEN,
  directories: Directories,
  state: ProjectState,
): Problem[] {
  const found: Problem[] = []
  for (const [address, at] of findAddresses(text, language)) {
    // A link to a file that is not there leads nowhere, such as one in a text about such files.
    const forbidden = listTargets(address, file, directories)
      .filter((each) => language !== 'page' || existsSync(each))
      .map(offLimits(state).file)
      .find((each) => each !== null)
    if (forbidden == null) continue
    const place = toPlace(text, at, file, state)
    if (!found.some((each) => each.line === place.line && each.column === place.column))
      found.push(pageProblem('address-in-page', { target: forbidden.target }, place))
  }
  return found
}

/** Every file that an address may lead to. */
export function listTargets(address: string, from: string, { root, publicDir }: Directories): readonly string[] {
  const path = decode(address).replace(/[?#].*$/, '')
  if (path === '') return []
  if (/^(?:[a-z][\w+.-]*:|\/\/)/i.test(path)) return []
  if (!path.startsWith('/')) return [resolve(dirname(from), path)]
  return [join(root, path), ...(publicDir === '' ? [] : [join(publicDir, path)]), path]
}

function decode(address: string): string {
  try {
    return decodeURIComponent(address)
  } catch {
    return address
  }
}
