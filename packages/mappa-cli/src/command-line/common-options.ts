import type { Command } from 'commander'
import type { Definition } from '../../../mappa/src/core/definition/definition.ts'
import { isSettingsError } from '../../../mappa/src/core/problems/settings-error.ts'
import { type Inspection, inspectStage } from '../../../mappa/src/node/load/load.ts'
import { checkPatterns } from '../../../mappa/src/node/patterns/check-patterns.ts'
import { findDefinition } from '../../../mappa/src/node/project/definition/find.ts'
import { type ChosenRoot, chooseRoot, currentDirectory } from '../../../mappa/src/node/project/root.ts'
import { type ChosenStage, chooseStage } from '../../../mappa/src/node/project/stage.ts'
import { processEnvironment } from '../../../mappa/src/node/sources/runtime-environment.ts'
import { loadDefinition } from '../project/definition/load.ts'

/** The options that every command has. */
export interface CommonOptions {
  readonly stage?: string
  readonly root?: string
  readonly settings?: string
  readonly json?: boolean
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
    .option('--root <directory>', 'the directory of the project (default: the nearest one with a package.json)')
    .option('--settings <file>', 'the definition (default: settings.definition.* in the project directory or its src)')
    .option('--json', 'print JSON')
}

/** A project that a command works on. */
export interface Project {
  readonly root: string
  /** What decided that, as text. */
  readonly rootFrom: string
  readonly definition: Definition
}

/**
 * Finds the project that a command is called in and loads its definition.
 *
 * @throws {SettingsError} where there is no definition, or a wrong one
 */
export async function openProject(options: CommonOptions): Promise<Project> {
  const from = currentDirectory()
  const { root, from: rootFrom } = chosenRoot(options)
  const asked = options.settings === undefined ? undefined : { file: options.settings, from }
  const definition = await loadDefinition(findDefinition(root, asked), root)
  await checkPatterns(definition)
  return { root, rootFrom, definition }
}

/** The same for commands that work before there is a definition; a wrong one is reported all the same. */
export async function openOrWithout(options: CommonOptions): Promise<{ root: string; definition: Definition | null }> {
  try {
    return await openProject(options)
  } catch (error) {
    if (!isSettingsError(error) || error.problems[0]?.code !== 'definition-not-found') throw error
    return { root: chosenRoot(options).root, definition: null }
  }
}

function chosenRoot({ root }: CommonOptions): ChosenRoot {
  return root === undefined ? chooseRoot(undefined) : { root: chooseRoot(root).root, from: '--root' }
}

/** Finds out everything about one stage of a project. */
export function inspect({ root, rootFrom, definition }: Project, stage: ChosenStage): Inspection {
  return { ...inspectStage(definition, stage, { root }), rootFrom }
}

/** The stage that a command is about: the one of `--stage`, or as for a program. */
export function stageFor({ stages }: Pick<Definition, 'stages'>, { stage }: CommonOptions): ChosenStage {
  const asked = stage === undefined ? undefined : { stage, from: '--stage' }
  return chooseStage(stages, processEnvironment(process.env), asked)
}
