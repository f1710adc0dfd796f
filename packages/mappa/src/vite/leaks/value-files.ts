import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Finder, finderOf } from '../../core/leaks/finder.ts'
import { pageProblem } from '../../core/problems/makers/page.ts'
import type { Problem } from '../../core/problems/problem.ts'
import { bytewise } from '../../node/leaks/needles.ts'
import { offLimits } from '../border/off-limits.ts'
import type { ProjectState } from '../session/project-state.ts'

/** A file with values, and everything that tells that all of it stands somewhere. */
interface ValueFile {
  readonly target: string
  /** The whole content. */
  readonly content: string
  readonly signs: readonly string[]
}

/** Shorter contents are told only as what a bundler makes of a file, in characters. */
const TELLING = 16

/** Looks for whole files of values in what is served: as they are, as texts of code, and as the addresses that bundlers make of files. */
export class ValueFiles {
  readonly #files: readonly ValueFile[]
  readonly #state: ProjectState
  readonly #find: Finder
  /** The file that each sign is of. */
  readonly #signs: readonly ValueFile[]

  constructor(state: ProjectState) {
    this.#state = state
    this.#files = offLimits(state).valueFiles.flatMap(({ file, target }) => {
      const bytes = read(file)
      return bytes === null || bytes.toString('latin1').trim() === '' ? [] : [valueFile(target, bytes)]
    })
    this.#signs = this.#files.flatMap((each) => each.signs.map(() => each))
    this.#find = finderOf(this.#files.flatMap(({ signs }) => signs))
  }

  /**
   * What is wrong with one file; nothing where it holds no whole file of values.
   *
   * @param text what {@link bytewise} gives
   * @param directory where it lies already, if it does
   */
  problemsIn(file: string, text: string, directory?: string): Problem[] {
    const itself = directory === undefined ? null : offLimits(this.#state).file(join(directory, file))
    if (itself !== null) return [pageProblem('env-file-served', { target: itself.target, file }, { file })]
    let found = this.#files.find(({ content }) => text === content)
    this.#find(text, (index) => {
      found ??= this.#signs[index]
    })
    return found === undefined ? [] : [pageProblem('env-file-served', { target: found.target, file }, { file })]
  }
}

function valueFile(target: string, bytes: Buffer): ValueFile {
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

function read(file: string): Buffer | null {
  try {
    return readFileSync(file)
  } catch {
    return null
  }
}
