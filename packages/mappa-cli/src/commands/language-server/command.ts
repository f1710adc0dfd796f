import type { Command } from 'commander'
import { EXIT_OK } from '../../command-line/exit-codes.ts'
import { serveEditor } from '../../language-server/server.ts'

/** `mappa language-server --stdio`: serves editors. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  command
    .requiredOption('--stdio', 'talk over standard input and output, which is the only way there is')
    .addHelpText(
      'after',
      `
An editor starts it, for .env* files, the definition and sources; docs/guides/editors.md says how.`,
    )
    .action(async () => {
      await serveEditor(process.stdin, process.stdout)
      exitWith(EXIT_OK)
    })
}
