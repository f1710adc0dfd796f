import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'
import { REPOSITORY } from './project.ts'

/** Files that do not change while tests run: those of the compiler, of Node's types and of this package. */
const kept = new Map<string, ts.SourceFile | undefined>()

/**
 * What the compiler says of a project, as `tsc -p .` would print it. It runs in this process and keeps what it has parsed of files that
 * do not change, since most of the time of a compiler goes into those.
 *
 * @param root the directory with the `tsconfig.json`
 * @returns one line for each error; an empty text if there is none
 */
export function typeErrors(root: string): string {
  const file = join(root, 'tsconfig.json')
  const { config, error } = ts.readConfigFile(file, (path) => readFileSync(path, 'utf8'))
  if (error !== undefined) return format([error], root)
  const { options, fileNames, errors } = ts.parseJsonConfigFileContent(config, ts.sys, root)
  const host = ts.createCompilerHost(options)
  const read = host.getSourceFile.bind(host)
  host.getCurrentDirectory = () => root
  host.getSourceFile = (path, how, ...rest) => {
    if (isOwn(path, root)) return read(path, how, ...rest)
    const mode = typeof how === 'object' ? `${how.languageVersion} ${how.impliedNodeFormat}` : how
    const key = `${path} ${mode}`
    if (!kept.has(key)) kept.set(key, read(path, how, ...rest))
    return kept.get(key)
  }
  const program = ts.createProgram(
    fileNames,
    { typeRoots: [join(REPOSITORY, 'node_modules/@types')], ...options },
    host,
  )
  // The libraries are checked by those who make them.
  const own = program.getSourceFiles().filter(({ fileName }) => isOwn(fileName, root))
  const found = own.flatMap((each) => [
    ...program.getSyntacticDiagnostics(each),
    ...program.getSemanticDiagnostics(each),
  ])
  return format([...errors, ...program.getOptionsDiagnostics(), ...program.getGlobalDiagnostics(), ...found], root)
}

const isOwn = (path: string, root: string) => path.startsWith(root) && !path.includes('/node_modules/')

function format(diagnostics: readonly ts.Diagnostic[], root: string): string {
  return ts.formatDiagnostics(diagnostics, {
    getCurrentDirectory: () => root,
    getCanonicalFileName: (name) => name,
    getNewLine: () => '\n',
  })
}
