import { fs, path } from '@mappa/node/fs/builtin'
import { getLanguage } from '@mappa/source'
import type { FileSurroundings } from '@mappa/source/rewriting'
import { chooseTemplateName, templateRewriting } from '@mappa/source/text/template'
import { makeJavaScriptDriver } from './javascript-driver.ts'
import { makeLanguageDriver } from './language-driver.ts'
import { makeObstacle } from './obstacles.ts'
import type { MoveOptions } from './options.ts'
import type { SourceDriver } from './source-driver.ts'

/** What decides how the sources of a project are changed. */
export interface DriverOptions extends Pick<MoveOptions, 'templates' | 'clearOutputs'> {
  readonly around: (whole: string) => FileSurroundings
  /** Files of pages, by absolute paths. */
  readonly ofPages: ReadonlySet<string>
  readonly isMobile: boolean
}

/** True for a file that can be changed, whether the survey found something in it or not. */
export function canChange(file: string): boolean {
  const rewriting = getLanguage(file)?.rewriting
  return rewriting !== undefined && rewriting.canRead?.(file) !== false
}

/** How a file is changed: as JavaScript, by reading variables, or by becoming a template if that was asked for. */
export function chooseDriver(
  { templates, clearOutputs, around, ofPages, isMobile }: DriverOptions,
  whole: string,
  file: string,
  text: string | null,
): SourceDriver {
  if (text === null) return makeClosedDriver('encoding')
  const language = getLanguage(file)
  const own = language !== null && canChange(file) ? language.rewriting! : null
  if (language === null || (own === null && !templates))
    return makeClosedDriver(language?.rewriting === undefined ? 'language' : 'no-reads')
  const rewriting = own ?? templateRewriting(language)
  const changed = { text, file, rewriting, around: around(whole) }
  if (own !== null && language.readsByPath === true)
    return makeJavaScriptDriver({ ...changed, whole, ofPage: ofPages.has(whole), isMobile })
  return makeLanguageDriver(changed, {
    whole,
    template: own === null ? chooseTemplateName(file) : null,
    clearsOutputs: clearOutputs && rewriting.outputs !== undefined,
  })
}

/** A file in which nothing can be changed. */
function makeClosedDriver(code: 'encoding' | 'language' | 'no-reads'): SourceDriver {
  return {
    rewriting: null,
    readsSettings: false,
    template: null,
    clearsOutputs: false,
    findObstacle: () => makeObstacle(code),
    findPlaces: () => [],
    listOutputs: () => [],
    rewrite: () => {
      throw new Error('Nothing in this file is changed.')
    },
  }
}

/** What is around a file: the others of its directory with its ending. */
export function describeSurroundings(
  whole: string,
  files: readonly string[],
  helpers: Map<string, Set<string>>,
): FileSurroundings {
  const directory = path.dirname(whole)
  const own = helpers.get(directory) ?? new Set()
  helpers.set(directory, own)
  const listAlike = () => files.filter((each) => each !== whole && path.extname(each) === path.extname(whole))
  const listTexts = (wholes: readonly string[]) => wholes.map((each) => readText(each) ?? '')
  return {
    siblings: () => listTexts(listAlike().filter((each) => path.dirname(each) === directory)),
    others: () => listTexts(listAlike()),
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
