import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import type { FileChange } from '../../project/update-files.ts'

const { createRequire } = process.getBuiltinModule('node:module')

/** The compiler of a project, as far as it is asked here. */
type Compiler = typeof import('typescript')

/** What the compiler of a project would say after a change, and did not before. */
export interface TypeFault {
  /** Relative to the root. */
  readonly file: string
  /** From 1, in the changed text. */
  readonly line: number
  /** The lines that it is about, as they would be. */
  readonly code: string
  /** `TS2322`, and what the compiler says. */
  readonly message: string
}

/** The project's own TypeScript, which looks at changes before they are written. */
export class TypeCheck {
  readonly #root: string
  readonly #compiler: Compiler | null
  /** The projects of each `tsconfig.json`. */
  readonly #projects = new Map<string, readonly CheckedProject[]>()

  constructor(root: string) {
    this.#root = root
    this.#compiler = loadCompiler(root)
  }

  /** What is wrong after a change and was not before; nothing where the project has no TypeScript that can be asked. */
  listFaults(changes: readonly FileChange[]): readonly TypeFault[] {
    const compiler = this.#compiler
    const sources = changes.filter(({ file }) => /\.[cm]?[jt]sx?$/.test(file))
    if (compiler === null) return []
    const after = new Map(sources.map((each) => [path.join(this.#root, each.file), each.after]))
    const configs = new Set([...after.keys()].flatMap((file) => findConfig(this.#root, file) ?? []))
    return [...configs].flatMap((config) => {
      const projects =
        this.#projects.get(config) ?? listProjects(compiler, config).map((each) => new CheckedProject(compiler, each))
      this.#projects.set(config, projects)
      return projects.flatMap((each) => each.listFaults(after)).map((each) => toFault(this.#root, each))
    })
  }
}

/** A project of the compiler, which is looked at as it would be, and as it is where that has faults. */
class CheckedProject {
  readonly #compiler: Compiler
  readonly #project: import('typescript').ParsedCommandLine
  /** What was looked at last: most of its files are those of the next one. */
  #last: import('typescript').Program | undefined
  /** The faults that are there already; `null` as long as nobody had to know. */
  #seen: ReadonlySet<string> | null = null

  constructor(compiler: Compiler, project: import('typescript').ParsedCommandLine) {
    this.#compiler = compiler
    this.#project = project
  }

  /** What is wrong with changed texts, by their absolute paths, and is not wrong already. */
  listFaults(after: ReadonlyMap<string, string>): readonly Found[] {
    const { fileNames } = this.#project
    if (![...after.keys()].some((each) => fileNames.includes(each))) return []
    const fresh = [...after.keys()].filter((each) => /\.[cm]?tsx?$/.test(each) && !fs.existsSync(each))
    const found = this.#check([...fileNames, ...fresh], after)
    if (found.length === 0) return []
    this.#seen ??= new Set(this.#check(fileNames, new Map()).map(getKey))
    return found.filter((each) => !this.#seen?.has(getKey(each)))
  }

  #check(rootNames: readonly string[], texts: ReadonlyMap<string, string>): readonly Found[] {
    const { options } = this.#project
    const host = makeHost(this.#compiler, options, texts)
    const before = this.#last === undefined ? {} : { oldProgram: this.#last }
    this.#last = this.#compiler.createProgram({ rootNames, options, host, ...before })
    return listDiagnostics(this.#compiler, this.#last)
  }
}

/** The compiler that the project has installed; `null` where there is none, or one without this interface. */
function loadCompiler(root: string): Compiler | null {
  try {
    const found = createRequire(path.join(root, 'package.json'))('typescript') as Partial<Compiler>
    return typeof found.createProgram === 'function' && found.sys !== undefined ? (found as Compiler) : null
  } catch {
    return null
  }
}

/** The nearest `tsconfig.json` at or above a file, within the project. */
function findConfig(root: string, file: string): string | null {
  for (let directory = path.dirname(file); directory.startsWith(root); directory = path.dirname(directory)) {
    const config = path.join(directory, 'tsconfig.json')
    if (fs.existsSync(config)) return config
    if (directory === path.dirname(directory)) break
  }
  return null
}

function getKey({ file, code, message }: Found): string {
  return `${file?.fileName ?? ''} ${code} ${message}`
}

/** Nothing is written, and the declarations of packages are taken as they are. */
const ONLY_CHECKED = { noEmit: true, composite: false, incremental: false, skipLibCheck: true }

/** A project, and those that it refers to, as one without files of its own does. */
function listProjects(compiler: Compiler, config: string): readonly import('typescript').ParsedCommandLine[] {
  const parse = (file: string) => {
    const { config: read } = compiler.readConfigFile(file, compiler.sys.readFile)
    const parsed = compiler.parseJsonConfigFileContent(read ?? {}, compiler.sys, path.dirname(file))
    return { ...parsed, options: { ...parsed.options, ...ONLY_CHECKED } }
  }
  const first = parse(config)
  const others = (first.projectReferences ?? []).map((each) => parse(compiler.resolveProjectReferencePath(each)))
  return [first, ...others]
}

/**
 * Reads changed files as they would be, and all others as they are. Of comments, what counts for types is read alone, as the
 * compiler's own command does: most of what is parsed are declarations of packages.
 *
 * @param after changed texts, by their absolute paths
 */
function makeHost(
  compiler: Compiler,
  options: import('typescript').CompilerOptions,
  after: ReadonlyMap<string, string>,
): import('typescript').CompilerHost {
  const host = compiler.createCompilerHost(options)
  // Compilers before 5.3 read all comments.
  const jsDocParsingMode = (compiler as Partial<Compiler>).JSDocParsingMode?.ParseForTypeErrors
  return {
    ...host,
    ...(jsDocParsingMode === undefined ? {} : { jsDocParsingMode }),
    fileExists: (file) => after.has(file) || host.fileExists(file),
    readFile: (file) => after.get(file) ?? host.readFile(file),
    getSourceFile(file, languageVersion, ...rest) {
      const text = after.get(file)
      return text === undefined
        ? host.getSourceFile(file, languageVersion, ...rest)
        : compiler.createSourceFile(file, text, languageVersion)
    },
  }
}

interface Found {
  readonly file: import('typescript').SourceFile | undefined
  readonly start: number
  readonly length: number
  readonly code: number
  readonly message: string
}

function listDiagnostics(compiler: Compiler, program: import('typescript').Program): readonly Found[] {
  return compiler
    .getPreEmitDiagnostics(program)
    .filter(({ category }) => category === compiler.DiagnosticCategory.Error)
    .map(({ file, start = 0, length = 0, code, messageText }) => ({
      file,
      start,
      length,
      code,
      message: compiler.flattenDiagnosticMessageText(messageText, ' '),
    }))
}

function toFault(root: string, { file, start, length, code, message }: Found): TypeFault {
  const text = file?.text ?? ''
  const from = text.lastIndexOf('\n', start - 1) + 1
  const end = text.indexOf('\n', start + length)
  return {
    file: file === undefined ? 'tsconfig.json' : toRelativePath(root, file.fileName),
    line: text.slice(0, start).split('\n').length,
    code: text.slice(from, end < 0 ? text.length : end),
    message: `TS${code}: ${message.replace(/\s+/g, ' ')}`,
  }
}
