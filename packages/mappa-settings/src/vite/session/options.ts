import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { makeClosestMatch } from '@mappa/core/text/closest-match'

/** The objects whose members existing code may go on reading. */
export const INLINABLE = ['import.meta.env', 'process.env'] as const

/** One of `INLINABLE`. */
export type Inlinable = (typeof INLINABLE)[number]

/** Options of the plugin. */
export interface MappaOptions {
  /**
   * The stage, for a framework that sets the mode of Vite by itself.
   * @default the mode of Vite
   */
  readonly stage?: string | undefined
  /**
   * The directory of the layer files, relative to Vite's root.
   * @default the nearest one with a `package.json`, at or above Vite's root
   */
  readonly root?: string
  /**
   * The file of the definition, relative to the directory of the layer files.
   * @default found as commands find it
   */
  readonly settings?: string
  /**
   * Objects that existing page code may go on reading, as in `import.meta.env.NIGHT_PLACES`: after the build, the texts of public
   * settings are there. Any other name is an error.
   * @default []
   */
  readonly inlineReads?: readonly Inlinable[]
  /**
   * Private settings, by their variable names, whose values may be in the page. Secrets may not.
   * @default []
   */
  readonly allowInPage?: readonly string[]
  /**
   * True if private settings may be missing when a page is built, as on a machine that has no keys. The page can't be searched for
   * them then, and they are listed.
   * @default false
   */
  readonly allowMissingPrivate?: boolean
  /**
   * True if a server that was built with `virtual:mappa/server` may be started for another stage than it was built for, although
   * the page has values of that one.
   * @default false
   */
  readonly allowOtherStage?: boolean
  /**
   * False if only `mappa write modules` writes the declarations of the virtual modules.
   * @default true
   */
  readonly writeTypes?: boolean
}

const isTexts = (value: unknown) => Array.isArray(value) && value.every((each) => typeof each === 'string')
const isText = (value: unknown) => typeof value === 'string' && value !== ''
const isTruth = (value: unknown) => typeof value === 'boolean'

const OPTIONS: Readonly<Record<keyof MappaOptions, readonly [needed: string, accepts: (value: unknown) => boolean]>> = {
  // An empty one counts as none, as in the environment that it may come from.
  stage: ['the name of a stage', (value) => typeof value === 'string'],
  root: ['the path of a directory', isText],
  settings: ['the path of a file', isText],
  inlineReads: [
    `a list of ${INLINABLE.map((each) => `'${each}'`).join(' and ')}`,
    (value) => isTexts(value) && (value as string[]).every((each) => (INLINABLE as readonly string[]).includes(each)),
  ],
  allowInPage: ['a list of names of variables', isTexts],
  allowMissingPrivate: ['true or false', isTruth],
  allowOtherStage: ['true or false', isTruth],
  writeTypes: ['true or false', isTruth],
}

/** Everything that is wrong with options as they were given. */
export function checkOptions(given: MappaOptions): Problem[] {
  const problems: Problem[] = []
  const options = Object.keys(OPTIONS)
  for (const [option, value] of Object.entries(given)) {
    const rule = Object.hasOwn(OPTIONS, option) ? OPTIONS[option as keyof MappaOptions] : undefined
    if (rule === undefined) {
      problems.push(pageProblem('plugin-option-unknown', { option, options, near: makeClosestMatch(options)(option) }))
    } else if (value !== undefined && !rule[1](value)) {
      problems.push(pageProblem('plugin-option-wrong', { option, needed: rule[0] }))
    }
  }
  return problems
}
