import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { Command } from 'commander'
import { Argument } from '../../command-line/commander.ts'
import { EXIT_OK } from '../../command-line/exit-codes.ts'
import { out } from '../../terminal/streams.ts'
import type { CommandEntry } from '../entry.ts'
import { completionScript, SHELLS, type Shell } from './scripts.ts'
import { suggest } from './suggestions.ts'

/** `mappa completion SHELL`: prints what makes a shell complete the words of this command. */
export function configure(command: Command, exitWith: (code: number) => void, all: readonly CommandEntry[]): void {
  command
    .addArgument(new Argument('<shell>', 'the shell to print it for').choices(SHELLS))
    .addHelpText(
      'after',
      `
Put the line of your shell into its startup file:
  bash  source <(mappa completion bash)
  zsh   source <(mappa completion zsh)      after compinit
  fish  mappa completion fish | source`,
    )
    .action((shell: Shell) => {
      out.raw(completionScript(shell))
      exitWith(EXIT_OK)
    })
  // What the scripts call, with the words up to the one that is typed.
  command
    .command('words', { hidden: true })
    .argument('[words...]')
    .action(async (words: readonly string[]) => {
      out.raw((await suggest(words, all)).map(({ text, what }) => `${text}\t${escapeInvisible(what)}\n`).join(''))
      exitWith(EXIT_OK)
    })
}
