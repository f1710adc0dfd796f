import { dirname, join, relative, resolve } from 'node:path'
import { pageProblem } from '../../core/problems/of-pages.ts'
import type { Problem } from '../../core/problems/problem.ts'
import type { Look } from '../project.ts'
import { offLimits } from './off-limits.ts'

/** Styles, whatever language they are written in, also those within components. */
export const STYLES =
  /\.(?:css|less|sass|scss|styl|stylus|pcss|postcss|sss)(?:$|\?)|[?&]lang\.(?:css|less|sass|scss|styl)/

/** How addresses of files are written: in code beside `import.meta.url`, in styles, in pages. */
const WRITTEN = {
  code: [/\bnew\s+URL\s*\(\s*(?:\/\*.*?\*\/\s*)*(["'`])((?:(?!\1)[^\\\n])+)\1/g],
  styles: [/@import\s+(?:url\(\s*)?(["']?)([^"')\s;]+)\1/g, /\burl\(\s*(["']?)([^"')]+)\1/g],
  // What the scripts of a page import is known by the graph of modules.
  page: [
    /<(?!script\b[^>]*\btype\s*=\s*["']?module)[a-z][^<>]*?\s(?:src|href|poster|data|srcset|content|action)\s*=\s*(["']?)([^"'\s>]+)\1/gi,
  ],
} as const

/** Where a file is looked for by its address. */
export interface Folders {
  readonly root: string
  /** What is served as it is; empty where nothing is. */
  readonly publicDir: string
}

/**
 * Finds the addresses in a file that lead to what no page may reach.
 *
 * @param file its whole path
 */
export function addressesOffLimits(
  text: string,
  file: string,
  language: keyof typeof WRITTEN,
  folders: Folders,
  look: Look,
): Problem[] {
  const { root } = look
  const found: Problem[] = []
  for (const pattern of WRITTEN[language]) {
    for (const match of text.matchAll(pattern)) {
      const forbidden = filesOf(match[2]!, file, folders)
        .map(offLimits(look).file)
        .find((each) => each !== null)
      if (forbidden == null) continue
      const before = text.slice(0, match.index).split('\n')
      const place = { file: relative(root, file), line: before.length, column: before.at(-1)!.length + 1 }
      found.push(pageProblem('address-in-page', { target: forbidden.target }, place))
    }
  }
  return found
}

/** Every file that an address may lead to. */
export function filesOf(address: string, from: string, { root, publicDir }: Folders): readonly string[] {
  const path = decoded(address).replace(/[?#].*$/, '')
  if (/^(?:[a-z][\w+.-]*:|\/\/)/i.test(path)) return []
  if (!path.startsWith('/')) return [resolve(dirname(from), path)]
  return [join(root, path), ...(publicDir === '' ? [] : [join(publicDir, path)]), path]
}

function decoded(address: string): string {
  try {
    return decodeURIComponent(address)
  } catch {
    return address
  }
}
