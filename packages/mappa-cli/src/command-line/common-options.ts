import type { Command } from 'commander'
import type { ProjectOptions } from '../project/project.ts'
import { Option } from './commander.ts'

/** The options that every command has. */
export interface CommonOptions extends ProjectOptions {
  readonly stage?: string
  readonly json?: boolean
}

/** Gives a command the options by which it takes the values of a store as a layer. */
export function withStoreOptions(command: Command): Command {
  return command
    .option('--store', 'include the values of the store that settings.store.json names')
    .option('--store-file <file>', 'the same for the store that another file names (default: MAPPA_STORE)')
}

/** Gives a command the option by which it works on some packages of a repository; `every-package` takes it before the command is called. */
export function withPackageOption(command: Command): Command {
  return command.option('--package <pattern>', 'at the root of a repository: only these packages, by name or directory')
}

/** Gives a command the option by which it is about the settings of one program. */
export function withProgramOption(command: Command): Command {
  return command.option(
    '--program <name>',
    'only the settings of this program, of those that the definition lists (default: of all)',
  )
}

/** What a command prints. */
export interface FormatOptions {
  readonly format?: 'text' | 'json' | 'sarif'
  readonly json?: boolean
}

/** Gives a command `--format`, for what pipelines read. */
export function withFormat(command: Command): Command {
  return command.addOption(
    new Option(
      '--format <format>',
      'text for a person, json (the same as --json), or sarif (SARIF 2.1.0) for code hosts',
    ).choices(['text', 'json', 'sarif']),
  )
}

/**
 * Gives a command the options that every command has.
 *
 * @param stage what `--stage` means to it; `null` where it means nothing
 */
export function withCommonOptions(
  command: Command,
  stage: string | null = 'the stage (default: MAPPA_STAGE, else NODE_ENV, else the first of the definition)',
): Command {
  if (stage !== null) command.option('--stage <name>', stage)
  return command
    .option(
      '--root <directory>',
      'the directory of the project (default: the nearest one with a package.json or settings.definition.json)',
    )
    .option('--settings <file>', 'the definition (default: settings.definition.* in the project directory or its src)')
    .option('--json', 'print JSON')
}
