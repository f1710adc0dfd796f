#!/usr/bin/env node
import { basename, dirname } from 'node:path'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { version } from '@mappa/core/version'
import { Command, CommanderError } from './command-line/commander.ts'
import { withPackageOption } from './command-line/common-options.ts'
import { EXIT_INTERRUPTED, EXIT_OK, EXIT_USAGE } from './command-line/exit-codes.ts'
import { commands } from './commands/list.ts'
import { foreignFiles, slowDefinitions } from './project/project.ts'
import { ownWorkspaceRoot } from './project/workspaces.ts'
import { asksForJson, makeLabel, printFailure, printUsageError } from './terminal/failure.ts'
import { Interrupted } from './terminal/interrupted.ts'
import { err, out } from './terminal/streams.ts'

/** Words that were typed are repeated in messages, so those go where everything is made safe to print. */
const OUTPUT = {
  writeOut: (text: string) => out.print(text.replace(/\n$/, '')),
  writeErr: (text: string) => err.print(text.replace(/\n$/, '')),
}

/**
 * Runs one command: once, or at the root of a repository with packages in each of them.
 *
 * @returns what to end with
 */
async function main(given: readonly string[]): Promise<number> {
  // `mappa help check` is `mappa check --help`.
  const words = given[0] === 'help' ? [...given.slice(1, 2), '--help'] : given
  const entry = commands.find(({ name }) => name === words[0])
  if (entry?.packages === undefined) return runOnce(words)
  try {
    if (!mayBeAboutPackages(words)) return await runOnce(words)
    const { runOverPackages } = await import('./every-package/run.ts')
    return await runOverPackages(words, entry, runOnce, commands)
  } catch (error) {
    return printFailure(error)
  }
}

/** Commands that tell of them in their own way, or are asked by a program at every key. */
const TELLS_ITSELF = new Set(['check', 'completion', 'language-server'])
const MOST_TOLD = 3

if (!TELLS_ITSELF.has(process.argv[2] ?? ''))
  foreignFiles.tell = (root, found) => {
    const label = makeLabel(root)
    for (const { file, stage } of found.slice(0, MOST_TOLD))
      err.print(err.paint.faint(escapeInvisible(`${label(file)} is read by nothing: there is no stage ${stage}.`)))
    if (found.length > MOST_TOLD)
      err.print(err.paint.faint(`So are ${found.length - MOST_TOLD} more files: mappa check lists them.`))
  }

slowDefinitions.tell = (file) => {
  const shown = escapeInvisible(makeLabel(dirname(file))(basename(file)))
  err.print(
    err.paint.faint(
      `${shown} takes more than 8 seconds to load. A definition, with what it imports, is run each time.`,
    ),
  )
}

/** True where packages are named, or the current project declares some; all else is loaded only then. */
function mayBeAboutPackages(words: readonly string[]): boolean {
  return words.some((word) => /^--package(=|$)/.test(word)) || ownWorkspaceRoot() !== null
}

/** Only the file of the command that was called is loaded, so that each starts as fast as it can. */
async function runOnce(words: readonly string[]): Promise<number> {
  let exitCode = EXIT_OK
  const program = new Command('mappa')
    .description('Keeps the settings of a program in layered .env files and checks them.')
    .version(version, '--version', 'print the version')
    .helpOption('-h, --help', 'print this help')
    .helpCommand(false)
    .addHelpText('after', '\nRun mappa help <command> for details and examples.')
    .showSuggestionAfterError()
    .exitOverride()
    .configureOutput(OUTPUT)
  for (const { name, summary, examples, load, packages } of commands) {
    const command = program
      .command(name)
      .description(summary)
      .helpOption('-h, --help', 'print this help')
      .exitOverride()
      .configureOutput(OUTPUT)
    if (words[0] !== name) continue
    const { configure } = await load()
    const exit = (code: number) => {
      exitCode = code
    }
    configure(command, exit, commands)
    addToHelp(command, examples, packages !== undefined)
  }
  try {
    await program.parseAsync(words, { from: 'user' })
  } catch (error) {
    if (error instanceof CommanderError) {
      if (error.exitCode === 0) return EXIT_OK
      if (asksForJson(words)) printUsageError(error.message)
      return EXIT_USAGE
    }
    return error instanceof Interrupted ? EXIT_INTERRUPTED : printFailure(error)
  }
  return exitCode
}

function addToHelp(
  command: InstanceType<typeof Command>,
  examples: (typeof commands)[number]['examples'],
  worksOnPackages: boolean,
): void {
  if (worksOnPackages) withPackageOption(command)
  const width = Math.max(...examples.map(([call]) => call.length))
  const lines = examples.map(([call, what]) => `  ${call.padEnd(width)}  ${what}`)
  command.addHelpText('after', `\nExamples:\n${lines.join('\n')}`)
}

// Not process.exit: what is still on its way into a pipe would be lost.
process.exitCode = await main(process.argv.slice(2))
