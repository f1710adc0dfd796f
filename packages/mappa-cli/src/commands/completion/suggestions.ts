import type { Argument, Command as CommandType, Option } from 'commander'
import { Command } from '../../command-line/commander.ts'
import { withPackageOption } from '../../command-line/common-options.ts'
import { Project } from '../../project/project.ts'
import { findWorkspaceRoot, readWorkspace } from '../../project/workspaces.ts'
import type { CommandEntry } from '../entry.ts'

/** A word that can stand at a place, and what it means. */
export interface Suggestion {
  readonly text: string
  readonly what: string
}

/**
 * The words that can stand where somebody is typing. Nothing where files are meant, or nobody can tell.
 *
 * @param words the words behind the name of the program, the one that is typed last
 * @param commands every command there is
 */
export async function suggest(
  words: readonly string[],
  commands: readonly CommandEntry[],
): Promise<readonly Suggestion[]> {
  const typed = words.at(-1) ?? ''
  const before = words.slice(0, -1)
  const [name] = before
  if (name === undefined) return beginning(listNames(commands), typed)
  if (name === 'help') return beginning(before.length > 1 ? [] : listNames(commands), typed)
  const entry = commands.find((each) => each.name === name)
  if (entry === undefined || before.includes('--')) return []
  const command = new Command(name)
  const { configure } = await entry.load()
  configure(command, () => {}, commands)
  if (entry.packages !== undefined) withPackageOption(command)
  const { command: own, words: rest } = findSubcommand(command, before.slice(1))
  return beginning(await suggestWords(own, rest, typed), typed)
}

const listNames = (commands: readonly CommandEntry[]): Suggestion[] =>
  commands.map(({ name, summary }) => ({ text: name, what: summary }))

/** The command below a command that its words name, and the words behind that. */
function findSubcommand(command: CommandType, words: readonly string[]) {
  const below = command.commands.find((each) => each.name() === words[0])
  return below === undefined ? { command, words } : { command: below, words: words.slice(1) }
}

async function suggestWords(
  command: CommandType,
  words: readonly string[],
  typed: string,
): Promise<readonly Suggestion[]> {
  const options = [...command.options, ...(command.parent?.options ?? [])]
  const last = words.at(-1)
  const open = options.find((option) => option.long === last && option.required)
  if (open !== undefined) return listValues(open)
  if (typed.startsWith('-')) return options.filter((each) => each.long != null && !each.hidden).map(asSuggestion)
  const below = command.commands.filter((each) => !isHidden(each))
  if (below.length > 0 && words.length === 0)
    return below.map((each) => ({ text: each.name(), what: each.description() }))
  return argumentWords(findArgument(command, options, words))
}

const asSuggestion = ({ long, description }: Option): Suggestion => ({ text: long ?? '', what: description })
const isHidden = (command: CommandType) => (command as CommandType & { _hidden?: boolean })._hidden === true

async function listValues(option: Option): Promise<readonly Suggestion[]> {
  if (option.argChoices !== undefined) return option.argChoices.map((text) => ({ text, what: '' }))
  if (option.long === '--package') return packages()
  if (option.long === '--program') return listPrograms()
  return option.long === '--stage' ? stages() : []
}

/** The argument that is typed, by how many stand before it. */
function findArgument(
  command: CommandType,
  options: readonly Option[],
  words: readonly string[],
): Argument | undefined {
  const takesValue = (word: string | undefined) => options.some(({ long, required }) => long === word && required)
  const given = words.filter((word, at) => !word.startsWith('-') && !takesValue(words[at - 1]))
  const all = command.registeredArguments
  return all[given.length] ?? (all.at(-1)?.variadic === true ? all.at(-1) : undefined)
}

async function argumentWords(argument: Argument | undefined): Promise<readonly Suggestion[]> {
  if (argument === undefined) return []
  if (argument.argChoices !== undefined) return argument.argChoices.map((text) => ({ text, what: '' }))
  if (argument.name() === 'stage') return stages()
  return argument.name() === 'name' || argument.name() === 'names' ? settings() : []
}

async function stages(): Promise<readonly Suggestion[]> {
  const project = await projectIfAny()
  return (project?.definition.stages ?? []).map((text) => ({ text, what: 'stage' }))
}

async function listPrograms(): Promise<readonly Suggestion[]> {
  const project = await projectIfAny()
  return (project?.definition.programs ?? []).map((text) => ({ text, what: 'program' }))
}

/** The packages of the repository that somebody works in. */
async function packages(): Promise<readonly Suggestion[]> {
  const root = findWorkspaceRoot(process.cwd())
  if (root === null) return []
  return readWorkspace(root).packages.map(({ name, directory }) => ({ text: name, what: directory }))
}

async function settings(): Promise<readonly Suggestion[]> {
  const project = await projectIfAny()
  return (project?.definition.settings ?? []).map(({ name, description }) => ({ text: name, what: description }))
}

/** The project in the current directory. A wrong one is told by every other command. */
async function projectIfAny(): Promise<Project | null> {
  try {
    return await Project.open({})
  } catch {
    return null
  }
}

/** Those that begin with what is typed. */
function beginning(all: readonly Suggestion[], typed: string): readonly Suggestion[] {
  return all
    .filter(({ text }) => text.startsWith(typed))
    .map(({ text, what }) => ({ text, what: what.replace(/\s+/g, ' ').slice(0, 100) }))
}
