import { dirname, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Definition } from '@mappa/core/definition/definition'
import { readProblem } from '@mappa/core/page/read-problem'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { toPosition } from '@mappa/core/text/position'
import { toRelativePath } from '@mappa/node/fs/places'
import { findRoot } from '@mappa/node/project/root'
import {
  type EnvironmentObject,
  type EnvironmentRead,
  findEnvironmentReads,
} from '@mappa/source/javascript/environment-reads'
import { parseText } from '@mappa/source/javascript/parse-with'
import { loadProjectDefinition, type SettingsOrPath } from './definition.ts'
import { findParser } from './find-parser.ts'
import { mustBeTexts } from './must-be-texts.ts'

/** Options of {@link checkReads}. */
export interface CheckReadsOptions {
  /**
   * The path or `file:` URL of the definition or of its project, or the definition itself.
   * @default found above the file, as commands find it
   */
  readonly settings?: SettingsOrPath
  /**
   * The directory of the project.
   * @default the nearest one with a `package.json`, above the file
   */
  readonly root?: string | URL
  /**
   * Expressions that the bundler itself gives a value, such as `process.env.RELEASE`.
   * @default []
   */
  readonly defined?: readonly string[]
}

/** What bundlers give a value by themselves. */
const OF_BUNDLERS: ReadonlySet<string> = new Set([
  'process.env.NODE_ENV',
  // What publicReplacements puts there beside settings.
  ...['process.env', 'import.meta.env'].map((object) => `${object}.MAPPA_BUILD_STAGE`),
  ...['MODE', 'BASE_URL', 'PROD', 'DEV', 'SSR'].map((name) => `import.meta.env.${name}`),
])

/**
 * Refuses page code that reads a variable for which {@link publicReplacements} has nothing to put there: one that no setting has, one
 * of a private setting, one that is only known at runtime; and reads in a form that bundlers do not replace, such as
 * `const { NIGHT_PLACES } = process.env`. Code of installed packages is not checked.
 *
 * @param code JavaScript or TypeScript, with or without JSX
 * @param file the path of the file it is from, which decides the language; a query such as `?worker` is ignored
 * It needs the parser of `mappa-cli` or of Babel in the project.
 *
 * @throws {SettingsError} with every such read and where it stands, with what is wrong with the definition, or where there is no parser
 * @example
 * ```ts
 * checkReads("fetch(process.env.NIGHT_PLACE)", '/srv/night-desk/src/main.ts')
 * // throws: Page code reads process.env.NIGHT_PLACE, but there is no such setting. → Did you mean NIGHT_PLACES?
 * ```
 */
export function checkReads(code: string, file: string, options: CheckReadsOptions = {}): void {
  checkOptionNames(options, ['settings', 'root', 'defined'], 'checkReads')
  if (typeof code !== 'string' || typeof file !== 'string')
    throw new TypeError('checkReads takes the text of a file and the path of the file.')
  mustBeTexts(options.defined, 'defined', 'checkReads')
  const path = getPath(file)
  if (/[\\/]node_modules[\\/]/.test(path) || !/\benv\b/.test(code)) return
  const parsed = parseText(findParser(findRoot(dirname(path))), code, path)
  const isForeign = parsed?.faults !== 0 && !SCRIPT.test(path)
  const foreign = isForeign ? OBJECTS.find((object) => code.includes(object)) : undefined
  // What is wrong with JavaScript is for the bundler to say.
  const reads = parsed === null ? [] : findEnvironmentReads(parsed.program)
  if (reads.length === 0 && foreign === undefined) return
  const { definition, root } = loadProjectDefinition(options.settings, options.root ?? findRoot(dirname(path)))
  const defined = new Set([...OF_BUNDLERS, ...(options.defined ?? [])])
  const shown = toRelativePath(root, path)
  const problems = reads.flatMap((read) => toProblem(read, code, shown, definition, defined) ?? [])
  if (foreign !== undefined) problems.push(pageProblem('read-in-other-language', { object: foreign }, { file: shown }))
  if (problems.length > 0) throw new SettingsError({ title: 'Reads of page code', stage: null, problems, root })
}

const SCRIPT = /\.[cm]?[jt]sx?$/
const OBJECTS: readonly EnvironmentObject[] = ['process.env', 'import.meta.env']

function toProblem(
  { object, name, node, destructured }: EnvironmentRead,
  code: string,
  file: string,
  { settings }: Definition,
  defined: ReadonlySet<string>,
): Problem | null {
  const place = { file, ...toPosition(code, node.start) }
  if (name === null) return pageProblem('read-dynamic', { object }, place)
  const read = `${object}.${name}`
  const isOther = defined.has(read)
  const fault = isOther ? null : readProblem(read, name, settings, place)
  if (fault !== null || (!destructured && code.slice(node.start, node.end) === read)) return fault
  return pageProblem('read-not-replaced', { read, written: formatRead(object, name, node, code, destructured) }, place)
}

function formatRead(
  object: EnvironmentObject,
  name: string,
  node: EnvironmentRead['node'],
  code: string,
  destructured: boolean,
): string {
  return destructured ? `const { ${name} } = ${object}` : code.slice(node.start, node.end).replace(/\s+/g, ' ')
}

function getPath(file: string): string {
  const plain = file.replace(/[?#].*$/, '').replace(/^\0/, '')
  return plain.startsWith('file:') ? fileURLToPath(plain) : resolve(plain)
}
