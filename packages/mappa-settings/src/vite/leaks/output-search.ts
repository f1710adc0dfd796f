import { createHash } from 'node:crypto'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { toRelativePath } from '@mappa/node/fs/places'
import { Coverage } from '@mappa/search/read/coverage'
import type { Plugin } from 'vite'
import type { ProjectState } from '../session/project-state.ts'
import { type Session, toPageError } from '../session/session.ts'
import { getWrittenOutput, type SearchedFile, type WrittenOutput } from '../session/written-output.ts'
import { type LastLook, lookAtEnd } from './end-of-process.ts'
import { listPageDirectories } from './page-directories.ts'
import type { Place, ValueFiles } from './search.ts'
import type { ServedFile } from './served-files.ts'
import { guardCommand, type Summary, summarize, summarizeLate } from './summary.ts'
import type { Search } from './wanted.ts'

/** What a bundler is about to write. */
type Bundle = Parameters<Extract<Plugin['generateBundle'], (...words: never) => unknown>>[1]

/** What a search works with, once the settings are known. */
interface Prepared {
  readonly check: typeof import('./search.ts')
  readonly search: Search
  readonly valueFiles: ValueFiles
  /** What holds nothing of all this, by name and content. */
  readonly clean: Set<string>
  /** The settings that it is for. */
  readonly state: ProjectState
}

/** The search of what one build makes: before it is written, and once more on the disk, whoever has written it there. */
export class OutputSearch {
  readonly #session: Session
  /** What was searched, by its name in the output. */
  readonly #searched = new Map<string, SearchedFile>()
  /** What is wrong with files that are served as they are. */
  #served: Promise<readonly Problem[]> = Promise.resolve([])
  #ready: Prepared | null = null
  constructor(session: Session) {
    this.#session = session
  }

  /** What was written, also by builds with a plugin object of their own. */
  get #written(): WrittenOutput {
    return getWrittenOutput(this.#session.state)
  }

  /** Gets everything ready, and looks through what is served as it is. Nobody waits: it is done while the bundler is busy with modules. */
  prepare(): void {
    this.#searched.clear()
    this.#served = this.#load().then((ready) => this.#searchServed(ready))
    this.#served.catch(() => {})
  }

  /** @throws where a file that is served as it is holds a private value: such files lie on the disk before the rest is made */
  async mustServeNothing(): Promise<void> {
    const problems = await this.#served
    if (problems.length > 0) await this.#refuse(problems)
  }

  /** Waits until everything is ready, whatever was found. */
  async settle(): Promise<void> {
    await this.#served
  }

  /** Refuses to write something, and tells of what stands on the disk from before. */
  async #refuse(problems: readonly Problem[]): Promise<never> {
    const before = await this.findOnDisk()
    throw toPageError([...problems, ...before], this.#session)
  }

  /** @throws where a bundle holds a private value, which so never gets onto the disk */
  async mustNotHold(bundle: Bundle): Promise<void> {
    const problems = Object.values(bundle).flatMap((each) => {
      if (each.type === 'asset') return this.#searchFile(each.fileName, each.source)
      const mapFile = `${each.fileName}.map`
      // Most maps are files of their own; to get at one here takes long.
      const map = mapFile in bundle || !each.map ? [] : this.#searchFile(mapFile, JSON.stringify(each.map))
      return [...this.#searchFile(each.fileName, each.code).map((one) => this.#addSources(one, each.modules)), ...map]
    })
    if (problems.length > 0) await this.#refuse(problems)
  }

  /** Notes where pages were written. */
  addDirectory(directory: string): void {
    this.#written.directories.add(directory)
  }

  /**
   * Looks through everything that is on the disk and was not searched as it is.
   *
   * @returns what leaks, as one error; `null` where nothing does, or nothing was written
   */
  async searchDisk(): Promise<Error | null> {
    const problems = await this.findOnDisk()
    return problems.length === 0 ? null : toPageError(problems, this.#session)
  }

  /** What is wrong with what is on the disk, and was not searched as it is. */
  async findOnDisk(): Promise<readonly Problem[]> {
    const { directories } = this.#written
    if (directories.size === 0 || this.#session.state.inspection === null) return []
    // A server of which no page is built searches the pages that others have built. Settings change while a build watches.
    if (this.#ready?.state !== this.#session.state) await this.#load()
    lookAtEnd(this.#written.id, () => this.#lookAgain())
    const problems = [...directories].flatMap((each) => this.#searchDirectory(each))
    for (const each of problems) this.#written.told.add(toKey(each))
    return addFiles(problems)
  }

  /** The last look, when everything has ended: what is new since, also where a framework puts the pages that it renders itself. */
  #lookAgain(): LastLook {
    const { state, config } = this.#session
    const { directories, told } = this.#written
    const more = listPageDirectories([state.root, config!.root], [...directories])
    const found = [...directories, ...more].flatMap((each) => this.#searchDirectory(each))
    const problems = addFiles(found.filter((each) => !told.has(toKey(each))))
    if (problems.length > 0) return { text: toPageError(problems, this.#session).message, isFailed: true }
    // Where something was told already, nothing is called clean.
    if (found.length > 0) return { text: '', isFailed: false }
    const late = [...this.#written.recent].filter(([file, each]) => each.digest !== null || !told.has(toUnread(file)))
    return { text: summarizeLate(toCoverage(new Map(late)), this.#getReady().search), isFailed: false }
  }

  /** What was searched, and what could not be. */
  summarize(): Summary {
    const { recent, told } = this.#written
    recent.clear()
    for (const [file, { digest }] of this.#searched) if (digest === null) told.add(toUnread(file))
    return summarize(
      toCoverage(this.#searched),
      this.#getReady().search,
      guardCommand(this.#session.state.root, this.#written.directories),
    )
  }

  async #load(): Promise<Prepared> {
    const check = await import('./search.ts')
    const { state, options } = this.#session
    const valueFiles = new check.ValueFiles(state)
    const search = check.verifySearch(check.prepareSearch(state.inspection!, options.allowInPage ?? []))
    // The files of values are looked for as well.
    const clean = this.#written.listClean([search, options.allowInPage, valueFiles.contents])
    this.#ready = { check, valueFiles, search: check.addNotRead(search, valueFiles.notRead), clean, state }
    return this.#ready
  }

  #getReady(): Prepared {
    if (this.#ready === null) throw new Error('Nothing is searched before the build has begun.')
    return this.#ready
  }

  #searchServed({ check }: Prepared): readonly Problem[] {
    const { publicDir, build } = this.#session.config!
    if (publicDir === '' || !build.copyPublicDir) return []
    return check.listServedFiles(publicDir).flatMap((each) => this.#searchOnDisk(each, { directory: publicDir }))
  }

  #searchFile(file: string, content: string | Uint8Array, place?: Place): readonly Problem[] {
    const { check, search, valueFiles, clean } = this.#getReady()
    const bytes = toBuffer(content)
    const digest = hashBytes(bytes)
    const state = `${file} ${digest}`
    // What is on the disk is most often what was searched before it was written.
    if (place?.shown !== undefined && clean.has(state)) return []
    this.#note(file, { digest, skipped: [] })
    const whole = valueFiles.findProblems(file, check.bytewise(bytes), place)
    if (whole.length > 0) return whole
    const settings = this.#session.state.inspection?.settings ?? []
    const { problems, skipped } = check.findLeaks({ file, bytes, shownBelow: place?.shown }, search, settings)
    this.#note(file, { digest, skipped })
    if (problems.length === 0) clean.add(state)
    return problems
  }

  #note(file: string, searched: SearchedFile): void {
    this.#searched.set(file, searched)
    this.#written.recent.set(file, searched)
  }

  /** A file that the bundler does not have. */
  #searchOnDisk({ file, read }: ServedFile, place: Place): readonly Problem[] {
    const found = read(MAX_SEARCHED_BYTES)
    if (found.skipped === null) return this.#searchFile(file, found.bytes, place)
    this.#note(file, { digest: null, skipped: [{ part: null, reason: found.skipped }] })
    // Its name is known all the same.
    const { check, search } = this.#getReady()
    const settings = this.#session.state.inspection?.settings ?? []
    return check.findLeaks({ file, bytes: Buffer.alloc(0), shownBelow: place.shown }, search, settings).problems
  }

  #searchDirectory(directory: string): readonly Problem[] {
    const { check } = this.#getReady()
    const shown = toRelativePath(this.#session.config!.root, directory)
    return check.listServedFiles(directory).flatMap((each) => this.#searchOnDisk(each, { directory, shown }))
  }

  /** A problem with a chunk, told from which of its modules the value comes. */
  #addSources(found: Problem, modules: Readonly<Record<string, { readonly code: string | null }>>): Problem {
    const { check, search } = this.#getReady()
    const from = Object.entries(modules)
      .filter(([file, { code }]) =>
        check
          .findLeaks({ file, bytes: Buffer.from(code ?? '') }, search, [])
          .problems.some(({ name }) => name === found.name),
      )
      .map(([id]) => check.getSource(id, found, this.#session))
    return from.length === 0 ? found : withLocation(found, { importTrace: [...new Set(from)] })
  }
}

/** The same, with a notice that names all files. */
function addFiles(problems: readonly Problem[]): readonly Problem[] {
  const files = [...new Set(problems.flatMap((each) => each.file ?? []))]
  return problems.length === 0 ? [] : [...problems, pageProblem('leaks-on-disk', { files })]
}

function toCoverage(searched: ReadonlyMap<string, SearchedFile>): Coverage {
  const coverage = new Coverage()
  for (const [file, { skipped }] of searched) for (const each of skipped) coverage.skipPart(file, each)
  coverage.read = [...searched.values()].filter(({ digest }) => digest !== null).length
  return coverage
}

/** Says of a file that could not be read that this was told. */
const toUnread = (file: string) => JSON.stringify(['unread', file])

/** Tells problems of files apart. */
const toKey = ({ code, file, name }: Problem) => JSON.stringify([code, file, name])

function toBuffer(content: string | Uint8Array): Buffer {
  return typeof content === 'string'
    ? Buffer.from(content)
    : Buffer.from(content.buffer, content.byteOffset, content.byteLength)
}

const hashBytes = (bytes: Buffer) => createHash('sha256').update(bytes).digest('base64')
