#!/usr/bin/env node
import { version } from '../version.ts'
import { commands } from './commands.ts'
import { EXIT_FINE, EXIT_USAGE } from './exit-codes.ts'
import { Command, CommanderError } from './packages.ts'
import { printFailure } from './render/failure.ts'
import { err, out } from './render/terminal.ts'

/** Words that were typed are repeated in messages, so those go where everything is made safe to print. */
const OUTPUT = {
  writeOut: (text: string) => out.print(text.replace(/\n$/, '')),
  writeErr: (text: string) => err.print(text.replace(/\n$/, '')),
}

/**
 * Runs one command. Only the file of the command that was called is loaded, so that each starts as fast as it
 * can.
 */
async function main(words: readonly string[]): Promise<number> {
  let exitCode = EXIT_FINE
  const program = new Command('mappa')
    .description('Keeps the settings of a program in layered .env files, and checks them.')
    .version(version, '--version', 'print the version')
    .helpOption('--help', 'print this help')
    .helpCommand(false)
    .showSuggestionAfterError()
    .exitOverride()
    .configureOutput(OUTPUT)
  for (const { name, summary, load } of commands) {
    const command = program
      .command(name)
      .description(summary)
      .helpOption('--help', 'print this help')
      .exitOverride()
      .configureOutput(OUTPUT)
    if (words[0] !== name) continue
    const { configure } = await load()
    configure(command, (code) => {
      exitCode = code
    })
  }
  try {
    await program.parseAsync(words, { from: 'user' })
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT_FINE : EXIT_USAGE
    return printFailure(error)
  }
  return exitCode
}

// Not process.exit: what is still on its way into a pipe would be lost.
process.exitCode = await main(process.argv.slice(2))
