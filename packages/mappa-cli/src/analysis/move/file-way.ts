import { fs, path } from '@mappa/node/fs/builtin'
import { getLanguage } from '@mappa/source'
import type { FileSurroundings } from '@mappa/source/rewriting'
import { chooseTemplateName, templateRewriting } from '@mappa/source/text/template'
import type { MoveOptions } from './plan.ts'
import type { ChangedFile } from './rewritten.ts'

/** JavaScript and TypeScript, and what has scripts in it. */
export const JAVASCRIPT = /\.(?:[cm]?[jt]sx?|vue|svelte|astro|html?)$/i

/** What decides how files are changed. */
export interface WayOptions extends Pick<MoveOptions, 'templates' | 'clearOutputs'> {
  readonly around: (whole: string) => FileSurroundings
}

/** True for a file that can be changed, whether the survey found something in it or not. */
export function canChange(file: string): boolean {
  if (JAVASCRIPT.test(file)) return !/\.d\.[cm]?ts$/.test(file)
  const rewriting = getLanguage(file)?.rewriting
  return rewriting !== undefined && rewriting.canRead?.(file) !== false
}

/** How a file is changed that is no JavaScript. */
export interface RewriteStrategy {
  /** How its values are replaced, where it is no JavaScript. */
  readonly changed: ChangedFile | null
  /** True to take away what the program printed, where it shows what moves. */
  readonly clears: boolean
  /** The file that gets the changed text, where it is not this one: a template. */
  readonly template: string | null
}

const UNCHANGED: RewriteStrategy = { changed: null, template: null, clears: false }

/** How a file is changed that is no JavaScript: by reading variables, or by becoming a template if that was asked for. */
export function rewriteStrategy(
  { templates, clearOutputs, around }: WayOptions,
  whole: string,
  file: string,
  text: string | null,
): RewriteStrategy {
  const language = JAVASCRIPT.test(file) ? null : getLanguage(file)
  if (language === null || text === null) return UNCHANGED
  const own = canChange(file) ? language.rewriting! : null
  if (own === null && !templates) return UNCHANGED
  const rewriting = own ?? templateRewriting(language)
  const template = own === null ? chooseTemplateName(file) : null
  return {
    changed: { text, file, rewriting, around: around(whole) },
    template,
    clears: clearOutputs && rewriting.outputs !== undefined,
  }
}

/** What is around a file: the others of its directory with its ending. */
export function surroundings(
  whole: string,
  files: readonly string[],
  helpers: Map<string, Set<string>>,
): FileSurroundings {
  const directory = path.dirname(whole)
  const own = helpers.get(directory) ?? new Set()
  helpers.set(directory, own)
  const alike = () => files.filter((each) => each !== whole && path.extname(each) === path.extname(whole))
  const listTexts = (wholes: readonly string[]) => wholes.map((each) => readText(each) ?? '')
  return {
    siblings: () => listTexts(alike().filter((each) => path.dirname(each) === directory)),
    others: () => listTexts(alike()),
    helpers: own,
  }
}

/** The text of a file; `null` where it is none, so that writing it back would change it. */
export function readText(whole: string): string | null {
  try {
    const bytes = fs.readFileSync(whole)
    const text = bytes.toString('utf8')
    return Buffer.from(text, 'utf8').equals(bytes) ? text : null
  } catch {
    return null
  }
}
