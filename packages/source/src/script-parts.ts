import { toPosition } from '@mappa/core/text/position'
import { readJavaScript } from './javascript/literals.ts'
import { javascriptRewriting } from './javascript/rewriting.ts'
import type { Language } from './language.ts'
import type { Replaceable, Rewriting } from './rewriting.ts'
import type { Source, SourceRead, WantedValue } from './source.ts'

/** A piece of code in a file of another kind. */
interface Part {
  /** Where its text begins and ends, from 0. */
  readonly start: number
  readonly end: number
  /** True for TypeScript. */
  readonly typed: boolean
}

/** `<script>` with its attributes and its text; comments around it are no reason to skip it. */
const SCRIPT = /<script\b((?:[^>"']|"[^"]*"|'[^']*'){0,2000})>([\s\S]*?)<\/script\s*>/gi
/** Types of scripts that are data, templates or something else. */
const NO_CODE =
  /\btype\s*=\s*["']?(?!(?:module|text\/javascript|application\/javascript|text\/babel|text\/jsx|ts|text\/typescript)\b)[^"'\s>]+/i
const TYPED = /\blang\s*=\s*["']?tsx?\b|\btype\s*=\s*["']?(?:text\/typescript|ts)\b/i
/** What stands between two lines of --- at the top of a page of Astro. */
const FRONT = /^(\ufeff?\s*---[ \t]*\r?\n)([\s\S]*?)^---[ \t]*$/m

/** How the scripts of a file read settings: as JavaScript does, each script for itself. */
const scriptRewriting: Rewriting = {
  find(text, file, around, secrets) {
    const parts = splitCode(text, file).map((part) => {
      const found = javascriptRewriting.find(blankPreceding(text, part), part.file, around, secrets)
      return part.runsInPage && runsOnServer(file) ? keepAll(found) : found
    })
    // One that can't be understood does not keep the others from being changed.
    return parts.every((each) => each === null) ? null : parts.flatMap((each) => each ?? [])
  },
  faults: (text, file) =>
    splitCode(text, file).reduce(
      (sum, part) => sum + javascriptRewriting.faults!(blankPreceding(text, part), part.file),
      0,
    ),
  start: () => null,
}

/** A page gets its values when it is built: what it holds can't be read there. */
function keepAll(found: readonly Replaceable[] | null): readonly Replaceable[] | null {
  return found?.map((each) => ({ ...each, obstacle: 'browser' as const })) ?? null
}

/** True for a component whose scripts run in pages, while its other code runs on a server. */
export function runsOnServer(file: string): boolean {
  return /\.astro$/i.test(file)
}

/** Component files and pages: their script parts, in which everything stands where it stands in the file. */
export const scriptParts: Language = {
  name: 'component files and HTML',
  readsByPath: true,
  files: /\.(?:vue|svelte|astro|html?)$/i,
  isPrefiltered: true,
  readsVariables: (text) => text.includes('%VITE_'),
  mayBeMinified: true,
  read(text, file, isWanted) {
    const parts = listParts(text, file)
    const sources = parts.map((part) => readPart(text, file, part, isWanted))
    // One that can't be understood does not keep the others from being read.
    const understood = sources.filter((each) => each !== null)
    if (parts.length > 0 && understood.length === 0) return null
    return {
      literals: understood.flatMap((each) => each.literals),
      reads: [...understood.flatMap((each) => each.reads), ...findPageReads(text, file)],
      fallbacks: understood.flatMap((each) => each.fallbacks ?? []),
    }
  },
  rewriting: scriptRewriting,
}

/** `<title>%VITE_TITLE%</title>`, which a bundler fills: the prefix tells it from other texts between such signs. */
function findPageReads(text: string, file: string): readonly SourceRead[] {
  if (!/\.html?$/i.test(file)) return []
  return [...text.matchAll(/%(VITE_[A-Z0-9_]+)%/g)].map(({ 1: name, index }) => ({
    name: name!,
    needed: true,
    built: true,
    file,
    ...toPosition(text, index),
  }))
}

function listParts(text: string, file: string): readonly Part[] {
  const parts: Part[] = []
  const front = /\.astro$/i.test(file) ? FRONT.exec(text) : null
  if (front !== null && front.index === 0) {
    const start = front[1]!.length
    parts.push({ start, end: start + front[2]!.length, typed: true })
  }
  for (const { 0: whole, 1: attributes, 2: code, index } of findClosed(text).matchAll(SCRIPT)) {
    if (NO_CODE.test(attributes!)) continue
    const end = index + whole.lastIndexOf('</')
    // Scripts of Astro are TypeScript without saying so.
    parts.push({ start: end - code!.length, end, typed: TYPED.test(attributes!) || /\.astro$/i.test(file) })
  }
  return parts
}

/** The text up to the last end of a script: behind it none is closed, and looking for its end would take long. */
function findClosed(text: string): string {
  const ends = [...text.matchAll(/<\/script\s*>/gi)]
  const last = ends.at(-1)
  return last === undefined ? '' : text.slice(0, last.index + last[0].length)
}

/** A piece of JavaScript in a file. */
export interface CodePart {
  /** Where it begins and ends, from 0. */
  readonly start: number
  readonly end: number
  /** A name by whose ending a parser knows what it is. */
  readonly file: string
  /** True for a script of a component or a page. */
  readonly runsInPage: boolean
}

/** The JavaScript of a file: all of it, or its scripts. */
export function splitCode(text: string, file: string): readonly CodePart[] {
  if (!scriptParts.files.test(file)) return [{ start: 0, end: text.length, file, runsInPage: false }]
  const front = /\.astro$/i.test(file) ? FRONT.exec(text) : null
  return listParts(text, file).map(({ start, end, typed }) => ({
    start,
    end,
    file: `${file}.${typed ? 'tsx' : 'jsx'}`,
    runsInPage: front === null || start > front[0].length,
  }))
}

/** The text up to the end of a part, with blanks in the place of all that is before it: everything stays where it is. */
export function blankPreceding(text: string, { start, end }: { readonly start: number; readonly end: number }): string {
  return text.slice(0, start).replace(/[^\n\r]/g, ' ') + text.slice(start, end)
}

/** Reads a part, with blanks in the place of all that is before it, so that lines, columns and offsets are those of the file. */
function readPart(text: string, file: string, part: Part, isWanted?: WantedValue): Source | null {
  const { typed } = part
  const source = readJavaScript(blankPreceding(text, part), `${file}.${typed ? 'tsx' : 'jsx'}`, isWanted)
  if (source === null) return null
  const locate = <T extends { readonly file: string }>(each: T): T => ({ ...each, file })
  const { literals, reads, fallbacks = [] } = source
  return { literals: literals.map(locate), reads: reads.map(locate), fallbacks: fallbacks.map(locate) }
}
