import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { Log } from 'sarif'
import { Command } from '../command-line/commander.ts'
import { EXIT_OK, EXIT_USAGE } from '../command-line/exit-codes.ts'
import type { CommandEntry, PackagesOf } from '../commands/entry.ts'
import type { WorkspacePackage } from '../project/workspaces.ts'
import { printJson } from '../terminal/json.ts'
import { captured, err, out, type Printed } from '../terminal/streams.ts'
import { mergedLogs } from '../views/merged-logs.ts'
import { type ChosenPackages, choosePackages, theOnePackage } from './choose.ts'
import { hasOption, optionValue, type PackageWords, withoutPackages } from './words.ts'

/** What a command did in one package. */
interface Outcome {
  readonly each: WorkspacePackage
  readonly code: number
  readonly printed: readonly Printed[]
}

/** Runs a command with some words, and gives what it would end with. */
type Run = (words: readonly string[]) => Promise<number>

/**
 * Runs a command in the packages that its words and the current directory choose; once where there are none.
 *
 * @param entry the command
 * @param all every command there is
 * @returns what to end with
 * @throws {SettingsError} where packages are named that there are not, or one has to be named
 */
export async function runOverPackages(
  words: readonly string[],
  entry: CommandEntry,
  run: Run,
  all: readonly CommandEntry[],
): Promise<number> {
  const { works, files, about = '', once = [], shared } = entry.packages!
  const own = withoutPackages(words)
  const operands = await listOperands(entry, own.rest, all)
  const isAboutFiles = files !== undefined && operands.some((each) => files.test(each))
  const packages = isAboutFiles ? null : await choosePackages(own, works !== 'all')
  if (packages === null) return run(own.rest)
  const [first] = packages.chosen
  if (hasOption(own.rest, ...once) && first !== undefined) return run(withRoot(own.rest, first.root))
  const isShared = hasOption(own.rest, '--shared')
  const named = optionValue(own.rest, about)
  if (named !== null) return run(withRoot(own.rest, (await theOnePackage(packages, named, false)).root))
  if (works !== 'one')
    return runInPackages(packages, own, run, works, hasOption(own.rest, '--staged') ? undefined : shared)
  return run(withRoot(own.rest, (await theOnePackage(packages, operands[0] ?? '', isShared)).root))
}

/** The arguments of a command, without its options and their values. */
async function listOperands(
  { name, load }: CommandEntry,
  words: readonly string[],
  all: readonly CommandEntry[],
): Promise<readonly string[]> {
  const command = new Command(name)
  const { configure } = await load()
  configure(command, () => {}, all)
  return command.parseOptions(words.slice(1)).operands
}

/**
 * Runs a command in every chosen package, one after the other: a broken one does not hide the others. What is all right is counted, not
 * shown.
 *
 * @returns the worst of what each ended with
 */
async function runInPackages(
  packages: ChosenPackages,
  { rest }: PackageWords,
  run: Run,
  kind: 'defined' | 'all',
  shared: PackagesOf['shared'],
): Promise<number> {
  const outcomes: Outcome[] = []
  const isSplit = shared !== undefined && packages.chosen.length > 1
  const call = async (each: WorkspacePackage, words: readonly string[]) => {
    const { result: code, printed } = await captured(() => run(words))
    outcomes.push({ each, code, printed })
  }
  for (const each of packages.chosen) {
    const words = chooseWords(each, packages, rest, kind)
    await call(each, isSplit ? withWords(words, shared.apart) : words)
  }
  // What all have in common comes last, as if it were one more.
  if (isSplit) await call(findRepository(packages), togetherWords(packages, rest, shared.together))
  const [first] = outcomes
  // Wrong words are wrong in every package.
  if (first?.code === EXIT_USAGE && outcomes.every((each) => getText(each) === getText(first))) {
    replay(first)
    return EXIT_USAGE
  }
  if (hasOption(rest, '--json') || getFormat(rest) === 'json') printAsJson(outcomes)
  else if (getFormat(rest) === 'sarif') printJson(mergedLogs(outcomes.map((each) => parseData<Log>(each))))
  else printGroups(outcomes, packages, isQuiet(rest))
  return Math.max(EXIT_OK, ...outcomes.map(({ code }) => code))
}

/** The words of a command for one package. What is surveyed at the root are the files that belong to no package. */
function chooseWords(
  each: WorkspacePackage,
  { workspace }: ChosenPackages,
  words: readonly string[],
  kind: 'defined' | 'all',
): readonly string[] {
  const others = workspace.packages.filter((other) => other !== each).map(({ root }) => root)
  const isRootOfAll = kind === 'all' && each.directory === '.' && others.length > 0
  return isRootOfAll ? [...withRoot(words, each.root), '--without', ...others] : withRoot(words, each.root)
}

function withRoot(words: readonly string[], root: string): readonly string[] {
  return withWords(words, '--root', root)
}

/** Adds options to the words of a command, before what `--` ends. */
function withWords([name = '', ...words]: readonly string[], ...added: readonly string[]): readonly string[] {
  const end = words.indexOf('--')
  const at = end < 0 ? words.length : end
  return [name, ...words.slice(0, at), ...added, ...words.slice(at)]
}

function togetherWords({ chosen, workspace }: ChosenPackages, rest: readonly string[], option: string) {
  return withWords(withRoot(rest, workspace.root), ...chosen.flatMap(({ root }) => [option, root]))
}

function findRepository({ workspace }: ChosenPackages): WorkspacePackage {
  return { name: 'the repository', directory: '.', root: workspace.root, hasDefinition: false }
}

function getFormat(words: readonly string[]): string | null {
  const at = words.findIndex((word) => word === '--format' || word.startsWith('--format='))
  if (at < 0) return null
  return words[at] === '--format' ? (words[at + 1] ?? null) : words[at]!.slice('--format='.length)
}

/** True for a command of which nothing is to be seen where all is well. */
function isQuiet(words: readonly string[]): boolean {
  return ['check', 'survey', 'guard'].includes(words[0] ?? '') || hasOption(words, '--verify')
}

function replay({ printed }: Pick<Outcome, 'printed'>): void {
  for (const { to, text } of printed) (to === 'out' ? out : err).raw(text)
}

const getText = ({ printed }: Outcome) => printed.map(({ text }) => text).join('')

function parseData<Data>({ printed }: Outcome): Data {
  const text = printed.filter(({ to }) => to === 'out').map((each) => each.text)
  return JSON.parse(text.join('')) as Data
}

function printAsJson(outcomes: readonly Outcome[]): void {
  printJson({
    packages: outcomes.map((each) => ({
      package: each.each.name,
      directory: each.each.directory,
      ...parseData<object>(each),
    })),
  })
}

function printGroups(
  outcomes: readonly Outcome[],
  { workspace, without, chosen }: ChosenPackages,
  quiet: boolean,
): void {
  const { paint, print } = out
  for (const { each, code, printed } of outcomes) {
    if (quiet && code === EXIT_OK) continue
    // Where all that is to be said is an error, whoever reads only those has to see whose it is.
    const to = printed[0]?.to === 'err' ? err : out
    to.print(to.paint.strong(`== ${each.name} (${each.directory})`))
    replay({ printed })
    to.print('')
  }
  const wrong = outcomes.filter(({ code }) => code !== EXIT_OK)
  const count = `${chosen.length} package${chosen.length === 1 ? '' : 's'}`
  print(
    wrong.length === 0
      ? `${count}: OK`
      : `${count}, ${wrong.length} with problems: ${listNames(wrong.map(({ each }) => each))}`,
  )
  if (without.length > 0) print(paint.faint(`Without a definition: ${listNames(without)}`))
  const notes = [
    ...workspace.unmatched.map((pattern) => `No directory matches ${pattern}, which the workspaces name.`),
    ...workspace.outside.map((place) => `${place} leads out of the repository, and is left out.`),
    ...workspace.unreadable.map((directory) => `${directory} can't be read, so packages in it are left out.`),
  ]
  // Patterns and directories are named by whoever wrote the repository.
  for (const note of notes) print(paint.faint(escapeInvisible(note)))
  const twice = chosen.filter(({ name }, at) => chosen.findIndex((each) => each.name === name) !== at)
  for (const { name } of twice) print(paint.faint(`Two packages are called ${name}.`))
}

/** More names than this are counted. */
const MOST_NAMED = 8

function listNames(packages: readonly WorkspacePackage[]): string {
  const names = packages.slice(0, MOST_NAMED).map(({ name }) => name)
  const more = packages.length - names.length
  return more > 0 ? `${names.join(', ')} and ${more} more` : names.join(', ')
}
