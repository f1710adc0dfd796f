import { statSync } from 'node:fs'
import { join, posix } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import { readLimited, type Skipped } from '@mappa/node/fs/read-file'
import { type Finder, makeFinder } from '@mappa/search/finder'
import { bytewise } from '@mappa/search/needles'
import { offLimits } from '../border/off-limits.ts'
import type { ProjectState } from '../session/project-state.ts'
import { holdsPrivateValues } from './private-files.ts'

/** A file with values, and everything that tells that all of it stands somewhere. */
interface ValueFile {
  readonly target: string
  /** The whole content. */
  readonly content: string
  readonly signs: readonly string[]
}

/** Where a file is on the disk. */
export interface Place {
  /** The directory that is served, an absolute path. */
  readonly directory: string
  /** The same directory as messages show it, where it is the output of the build; left out for files that the project has. */
  readonly shown?: string
}

/** Shorter contents are told only as what a bundler makes of a file, in characters. */
const TELLING = 16

/** Looks for whole files of values in what is served: as they are, as texts of code, and as the addresses that bundlers make of files. */
export class ValueFiles {
  /** Files of values that can't be read: their copies can't be found either. */
  readonly notRead: readonly Skipped[]
  readonly #files: readonly ValueFile[]
  readonly #state: ProjectState
  readonly #find: Finder
  /** The file that each sign is of. */
  readonly #signs: readonly ValueFile[]

  constructor(state: ProjectState) {
    this.#state = state
    const read = offLimits(state)
      .valueFiles.filter(({ file }) => statSync(file, { throwIfNoEntry: false })?.isDirectory() !== true)
      .map(({ file, target }) => ({ target, ...readLimited(file, Number.POSITIVE_INFINITY) }))
    this.notRead = read.flatMap(({ target, skipped }) => (skipped === null ? [] : { file: target, why: skipped }))
    this.#files = read.flatMap((each) =>
      each.skipped === null && holdsPrivateValues(each.target, each.bytes, state)
        ? [readValueFile(each.target, each.bytes)]
        : [],
    )
    this.#signs = this.#files.flatMap((each) => each.signs.map(() => each))
    this.#find = makeFinder(this.#files.flatMap(({ signs }) => signs))
  }

  /** The whole contents of the files that are looked for. */
  get contents(): readonly string[] {
    return this.#files.map(({ content }) => content)
  }

  /**
   * What is wrong with one file; nothing where it holds no whole file of values.
   *
   * @param text what {@link bytewise} gives
   * @param place where it is on the disk already, if it is
   */
  findProblems(file: string, text: string, place?: Place): Problem[] {
    const shown = posix.join(place?.shown ?? '', file)
    const itself = place === undefined ? null : offLimits(this.#state).file(join(place.directory, file))
    // In the output itself it is no copy: to remove it would be the wrong advice. Code of a library is no value.
    if (itself !== null && place?.shown !== undefined && itself.code !== 'server-in-page')
      return [pageProblem('env-file-in-output', { file: shown }, { file: shown })]
    if (itself !== null && place?.shown === undefined)
      return [pageProblem('env-file-served', { target: itself.target, file: shown }, { file: shown })]
    let found = this.#files.find(({ content }) => text === content)
    this.#find(text, (index) => {
      found ??= this.#signs[index]
    })
    if (found === undefined) return []
    return [pageProblem('env-file-served', { target: found.target, file: shown }, { file: shown })]
  }
}

function readValueFile(target: string, bytes: Buffer): ValueFile {
  const content = bytewise(bytes)
  const text = bytes.toString('utf8')
  const inAddress = [`;base64,${bytes.toString('base64')}`, `,${encodeURIComponent(text)}`]
  const whole = text.trim()
  const asText = [whole, JSON.stringify(whole).slice(1, -1)].map(bytewise)
  return {
    target,
    content,
    signs: whole.length < TELLING ? inAddress : [...inAddress, ...asText, bytes.toString('base64')],
  }
}
