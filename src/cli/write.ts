import { join } from 'node:path'
import type { Command } from 'commander'
import { exampleFile } from '../core/derive/example.ts'
import { writeDerived } from '../node/writing/write-derived.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from './exit-codes.ts'
import { type CommonOptions, openProject } from './project.ts'
import { printDerived } from './render/derived.ts'

interface WriteOptions extends CommonOptions {
  readonly verify?: boolean
}

/** `mappa write`: writes what derives from the definition. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  command
    .helpCommand(false)
    .command('example')
    .description('.env.example: every setting with its description, rules and a placeholder')
    .helpOption('--help', 'print this help')
    .exitOverride()
    .option('--verify', 'write nothing; say whether the file is as it should be')
    .option('--stage <name>', 'has no effect: the file is the same for all stages')
    .option('--root <folder>', 'the folder of the project; else the nearest one with a package.json')
    .option('--settings <file>', 'the definition; else settings.definition.* in the folder or its src')
    .option('--json', 'print JSON for programs')
    .action(async (options: WriteOptions) => {
      const { root, definition } = await openProject(options)
      const file = '.env.example'
      const state = await writeDerived(join(root, file), exampleFile(definition), options.verify === true)
      printDerived({ file, ...state }, root, options)
      exitWith(options.verify && !state.right ? EXIT_PROBLEMS : EXIT_FINE)
    })
}
