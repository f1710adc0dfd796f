import { resolve } from 'node:path'
import type { Command } from 'commander'
import { DEFAULT_STAGES } from '../core/definition/define.ts'
import { isStageName } from '../core/definition/naming.ts'
import { lookAtProject, setUpProject } from '../node/init/init.ts'
import { currentDirectory, findRoot } from '../node/root.ts'
import { EXIT_FINE } from './exit-codes.ts'
import type { CommonOptions } from './project.ts'
import { askForStages } from './read-value.ts'
import { printLook, printSetUp } from './render/set-up.ts'

interface InitOptions extends CommonOptions {
  readonly yes?: boolean
}

/** `mappa init`: sets a project up. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  command
    .option('--yes', 'ask nothing and take what is proposed')
    .option('--stage <name>', 'has no effect: every stage is set up')
    .option('--root <folder>', 'the folder of the project; else the nearest one with a package.json')
    .option('--json', 'print JSON for programs')
    .action(async (options: InitOptions) => {
      const root = options.root === undefined ? findRoot(currentDirectory()) : resolve(options.root)
      const look = lookAtProject(root)
      if (!options.json) printLook(look)
      const asks = !options.yes && !options.json && process.stdin.isTTY === true && look.definition === null
      const stages = asks ? await askForStages(DEFAULT_STAGES, isStageName) : DEFAULT_STAGES
      printSetUp(await setUpProject(root, look, stages), look, options)
      exitWith(EXIT_FINE)
    })
}
