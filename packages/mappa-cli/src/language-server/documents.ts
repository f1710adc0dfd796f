import { isEnvFile } from '@mappa/core/layers/env-file-name'
import type { Problem } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { Connection, TextDocuments } from 'vscode-languageserver'
import type { TextDocument } from 'vscode-languageserver-textdocument'
import { type Reader, ReaderSearch } from '../analysis/usage/readers.ts'
import type { EditorProject } from './editor-project.ts'
import { diagnoseEnvFile, START, toDiagnostic, toLineRange } from './features/diagnostics.ts'
import { getPath, toUri } from './places.ts'
import { Projects } from './projects.ts'

/** A document in its project. */
export interface ProjectFile {
  readonly project: EditorProject
  /** Relative to the project. */
  readonly file: string
  readonly text: string
}

/** Debounce delay after an edit, in milliseconds. */
const PAUSE_MS = 10
/** A definition in code is run to be read, so that it is waited for until nothing more is typed, in milliseconds. */
const CODE_PAUSE_MS = 300
const CODE_DEFINITION = /(^|\/)settings\.definition\.[cm]?[jt]s$/

/** So long the readers in the code are taken as known, in milliseconds: sources on the disk are not watched. */
const FRESH_MS = 3000

/** The documents that an editor has open, and what it is told of them. */
export class Documents {
  readonly projects: Projects
  readonly #connection: Connection
  readonly #open: TextDocuments<TextDocument>
  readonly #byPath = new Map<string, TextDocument>()
  readonly #readers = new WeakMap<EditorProject, { readonly readers: readonly Reader[]; readonly at: number }>()
  /** Documents that are to be looked at once nothing more comes in. */
  readonly #waiting = new Set<string>()
  #timer: NodeJS.Timeout | undefined

  constructor(connection: Connection, open: TextDocuments<TextDocument>) {
    this.#connection = connection
    this.#open = open
    this.projects = new Projects(
      (file) => this.#byPath.get(file)?.getText() ?? null,
      (project) => this.#watch(project),
    )
    open.onDidChangeContent(({ document }) => this.#changed(document))
    open.onDidSave(({ document }) => this.#changed(document))
    open.onDidClose(({ document }) => this.#closed(document))
  }

  /** A document in its project; `null` for one that belongs to none. */
  async find(uri: string): Promise<ProjectFile | null> {
    const whole = getPath(uri)
    const document = this.#open.get(uri)
    if (whole === null || document === undefined) return null
    const project = await this.projects.of(whole)
    return project === null ? null : { project, file: toRelativePath(project.root, whole), text: document.getText() }
  }

  /** Reads everything anew that an edit is made from: it must fit what is there now, also on the disk. */
  forgetAll(project: EditorProject): void {
    this.#readers.delete(project)
    project.applyChange()
  }

  /** Where the code of a project reads its settings; open sources count as they are. */
  findReaders(project: EditorProject): readonly Reader[] {
    const known = this.#readers.get(project)
    if (known !== undefined && performance.now() - known.at < FRESH_MS) return known.readers
    const search = new ReaderSearch(project.definition)
    // What an editor asks for is a list of places; a file that can't be read is told where it is opened.
    const { readers } = search.below(
      project.root,
      project.definitionFile,
      (file) => this.#byPath.get(file)?.getText() ?? null,
    )
    this.#readers.set(project, { readers, at: performance.now() })
    return readers
  }

  /** Looks at everything again, since files have changed on the disk. */
  async refresh(project: EditorProject): Promise<void> {
    this.#readers.delete(project)
    await project.definitionChanged()
    this.#lookAtAll()
  }

  close(): void {
    clearTimeout(this.#timer)
    for (const project of this.projects.opened) project.close()
  }

  /** What nobody waits for. Its message may hold a value, so only the name of an error is told, and where it came from. */
  #runDetached(work: Promise<unknown>): void {
    work.catch((error: unknown) => {
      const [, place = ''] = (error instanceof Error ? (error.stack ?? '') : '').match(/^ +at (.*)$/m) ?? []
      const name = error instanceof Error ? error.name : 'An unknown error'
      this.#connection.console.error(`${name} ${place}`)
    })
  }

  #watch(project: EditorProject): void {
    project.watch((isDefinition) => {
      if (isDefinition) {
        this.#runDetached(this.refresh(project))
        return
      }
      project.applyChange()
      this.#lookAtAll()
    })
  }

  #changed(document: TextDocument): void {
    const whole = getPath(document.uri)
    if (whole === null) return
    this.#byPath.set(whole, document)
    // At once: what is asked next must not be answered by the text before.
    for (const project of this.projects.opened) this.#applyChange(project, whole)
    this.#look(document.uri)
  }

  #closed({ uri }: TextDocument): void {
    const whole = getPath(uri)
    if (whole === null) return
    this.#byPath.delete(whole)
    this.#waiting.delete(uri)
    for (const project of this.projects.opened) this.#applyChange(project, whole)
    this.#runDetached(this.#connection.sendDiagnostics({ uri, diagnostics: [] }))
    this.#lookAtAll(whole)
  }

  #applyChange(project: EditorProject, whole: string): void {
    this.#readers.delete(project)
    project.applyChange(toRelativePath(project.root, whole))
  }

  /** All that is open: one file can change what is wrong with another. */
  #lookAtAll(changed?: string): void {
    if (changed !== undefined) this.#runDetached(this.#forget(changed))
    for (const { uri } of this.#open.all()) this.#look(uri)
  }

  #look(uri: string): void {
    this.#waiting.add(uri)
    const isCode = CODE_DEFINITION.test(uri)
    if (isCode) clearTimeout(this.#timer)
    if (!isCode && this.#timer !== undefined) return
    this.#timer = setTimeout(
      () => {
        this.#timer = undefined
        this.#runDetached(this.#lookNow())
      },
      isCode ? CODE_PAUSE_MS : PAUSE_MS,
    )
  }

  async #lookNow(): Promise<void> {
    const uris = [...this.#waiting]
    this.#waiting.clear()
    for (const uri of uris) await this.#forget(getPath(uri) ?? '')
    // What was typed into one layer file shows in the others.
    const shown = uris.some((uri) => this.#isSettings(uri)) ? this.#open.all().map((each) => each.uri) : uris
    for (const uri of shown) await this.#tell(uri)
  }

  /** Where the definition could not be read from the first, its files say so: nothing about them was looked at. */
  async #findFaults(uri: string) {
    const whole = getPath(uri) ?? ''
    const wrong = this.#isSettings(uri) ? await this.projects.findWrong(whole) : null
    if (wrong === null) return []
    return placeFaults(wrong.problems, toRelativePath(wrong.root, whole), this.#open.get(uri)?.getText() ?? '')
  }

  #isSettings(uri: string): boolean {
    const file = getPath(uri) ?? ''
    return isEnvFile(file) || path.basename(file).startsWith('settings.definition.')
  }

  /** Lets a project know that one of its files has changed. */
  async #forget(whole: string): Promise<void> {
    const project = await this.projects.of(whole)
    if (project === null) {
      if (this.#isSettings(toUri(whole))) await this.projects.forgetMissing()
      return
    }
    if (whole === project.definitionFile) await project.definitionChanged()
  }

  async #tell(uri: string): Promise<void> {
    const found = await this.find(uri)
    const { version } = this.#open.get(uri) ?? {}
    if (version === undefined) return
    const diagnostics = found === null ? await this.#findFaults(uri) : await listDiagnostics(found)
    // Something may have been typed meanwhile; then the next round tells.
    if (this.#open.get(uri)?.version === version) await this.#connection.sendDiagnostics({ uri, version, diagnostics })
  }
}

/** What is wrong with the definition, as far as it is in a file; all else at its beginning. */
function placeFaults(problems: readonly Problem[], file: string, text: string) {
  return problems.map((each) => toDiagnostic(each, each.file === file ? toLineRange(each, text) : START))
}

async function listDiagnostics({ project, file, text }: ProjectFile) {
  if (project.isLayer(file)) return diagnoseEnvFile(project, file)
  if (file === toRelativePath(project.root, project.definitionFile))
    return placeFaults(project.definitionProblems, file, text)
  // Parsers are loaded when the first source is opened.
  const { listSourceHints: sourceHints } = await import('./features/source-hints.ts')
  return sourceHints(project, file, text)
}
