import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import { type Problem, withLocation } from '@mappa/core/problems/problem'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Plugin } from 'vite'
import { type Session, toPageError } from '../session/session.ts'
import { checkAllowInPage } from './allow-in-page.ts'
import type { Place, Search, ValueFiles } from './search.ts'

/** What a bundler is about to write. */
type Bundle = Parameters<Extract<Plugin['generateBundle'], (...words: never) => unknown>>[1]

/** What a search works with, once the settings are known. */
interface Prepared {
  readonly check: typeof import('./search.ts')
  readonly search: Search
  readonly valueFiles: ValueFiles
}

/** The search of what one build makes: before it is written, and once more on the disk, whoever has written it there. */
export class OutputSearch {
  readonly #session: Session
  /** What was searched, by its name in the output. */
  readonly #searched = new Map<string, string>()
  /** The directories that pages are served from. */
  readonly #directories = new Set<string>()
  /** What is wrong with files that are served as they are. */
  #served: Promise<readonly Problem[]> = Promise.resolve([])
  #ready: Prepared | null = null

  constructor(session: Session) {
    this.#session = session
  }

  /** True once pages have been written. */
  get hasOutput(): boolean {
    return this.#directories.size > 0
  }

  /** @throws where the options of the plugin allow what is no private setting */
  checkOptions(): void {
    const { state, options } = this.#session
    const problems = checkAllowInPage(state.definition!.settings, options.allowInPage ?? [])
    if (problems.length > 0) throw toPageError(problems, this.#session)
  }

  /** Gets everything ready, and looks through what is served as it is. Nobody waits: it is done while the bundler is busy with modules. */
  prepare(): void {
    this.#served = this.#load().then((ready) => this.#searchServed(ready))
    this.#served.catch(() => {})
  }

  /** @throws where a file that is served as it is holds a private value: such files lie on the disk before the rest is made */
  async mustServeNothing(): Promise<void> {
    const problems = await this.#served
    if (problems.length > 0) throw toPageError(problems, this.#session)
  }

  /** Waits until everything is ready, whatever was found. */
  async settle(): Promise<void> {
    await this.#served
  }

  /** @throws where a bundle holds a private value, which so never gets onto the disk */
  mustNotHold(bundle: Bundle): void {
    const problems = Object.values(bundle).flatMap((each) => {
      if (each.type === 'asset') return this.#searchFile(each.fileName, each.source)
      const mapFile = `${each.fileName}.map`
      // Most maps are files of their own; to get at one here takes long.
      const map = mapFile in bundle || !each.map ? [] : this.#searchFile(mapFile, JSON.stringify(each.map))
      return [...this.#searchFile(each.fileName, each.code).map((one) => this.#addSources(one, each.modules)), ...map]
    })
    if (problems.length > 0) throw toPageError(problems, this.#session)
  }

  /** Notes where pages were written. */
  addDirectory(directory: string): void {
    this.#directories.add(directory)
  }

  /**
   * Looks through everything that is on the disk and was not searched as it is.
   *
   * @returns what leaks, as one error; `null` where nothing does
   */
  searchDisk(): Error | null {
    const problems = [...this.#directories].flatMap((each) => this.#searchDirectory(each))
    if (problems.length === 0) return null
    const files = [...new Set(problems.flatMap((each) => each.file ?? []))]
    return toPageError([...problems, pageProblem('leaks-on-disk', { files })], this.#session)
  }

  /** What was searched, as text, and what could not be. */
  summarize(): string {
    return summarize(this.#searched.size, this.#getReady().search)
  }

  async #load(): Promise<Prepared> {
    const check = await import('./search.ts')
    const { state, options } = this.#session
    const valueFiles = new check.ValueFiles(state)
    const search = check.verifySearch(check.prepareSearch(state.inspection!, options.allowInPage ?? []))
    this.#ready = { check, valueFiles, search: check.addNotRead(search, valueFiles.notRead) }
    return this.#ready
  }

  #getReady(): Prepared {
    if (this.#ready === null) throw new Error('Nothing is searched before the build has begun.')
    return this.#ready
  }

  #searchServed({ check }: Prepared): readonly Problem[] {
    const { publicDir, build } = this.#session.config!
    if (publicDir === '' || !build.copyPublicDir) return []
    return check
      .listServedFiles(publicDir)
      .flatMap(({ file, read }) => this.#searchFile(file, read(), { directory: publicDir }))
  }

  #searchFile(file: string, content: string | Uint8Array, place?: Place): Problem[] {
    const { check, search, valueFiles } = this.#getReady()
    const text = check.bytewise(content)
    this.#searched.set(file, text)
    const whole = valueFiles.findProblems(file, text, place)
    if (whole.length > 0) return whole
    const settings = this.#session.state.inspection?.settings ?? []
    return check.findLeaks(
      { file, text, isText: typeof content === 'string', shownBelow: place?.shown },
      search,
      settings,
    )
  }

  #searchDirectory(directory: string): Problem[] {
    const { check } = this.#getReady()
    const shown = toRelativePath(this.#session.config!.root, directory)
    return check.listServedFiles(directory).flatMap(({ file, read }) => {
      const bytes = read()
      if (this.#searched.get(file) === check.bytewise(bytes)) return []
      const found = this.#searchFile(file, bytes, { directory, shown })
      // A build that watches searches it again.
      if (found.length > 0) this.#searched.delete(file)
      return found
    })
  }

  /** A problem with a chunk, told from which of its modules the value comes. */
  #addSources(found: Problem, modules: Readonly<Record<string, { readonly code: string | null }>>): Problem {
    const { check, search } = this.#getReady()
    const from = Object.entries(modules)
      .filter(([file, { code }]) =>
        check
          .findLeaks({ file, text: check.bytewise(code ?? ''), isText: true }, search, [])
          .some(({ name }) => name === found.name),
      )
      .map(([id]) => check.getSource(id, found, this.#session))
    return from.length === 0 ? found : withLocation(found, { importTrace: [...new Set(from)] })
  }
}

/** What was searched, as text, and what could not be. */
function summarize(files: number, { needles, notSearched }: Search): string {
  const names = new Set(needles.map((each) => each.name)).size
  const lines = [
    `mappa: ${files} file${files === 1 ? '' : 's'} searched; no value of a private setting found (searched for ${names})`,
  ]
  const reasons = new Map<string, string[]>()
  for (const { name, reason } of notSearched) reasons.set(reason, [...(reasons.get(reason) ?? []), name])
  if (reasons.size > 0) lines.push('mappa: not searched for:')
  for (const [reason, own] of reasons) lines.push(`  ${own.join(', ')}: ${reason}`)
  return lines.join('\n')
}
