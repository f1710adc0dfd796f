import type { Declaration } from '@mappa/core/definition/definition'
import { readLayers } from '@mappa/core/layers/source'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { envFiles } from '@mappa/node/sources/env-files'
import type { Command } from 'commander'
import { findFormer } from '../../analysis/set/former.ts'
import { findOverriding } from '../../analysis/set/overriding.ts'
import { chooseLayerFile, writeSetting } from '../../analysis/set/write-setting.ts'
import { type CommonOptions, withCommonOptions } from '../../command-line/common-options.ts'
import { EXIT_OK } from '../../command-line/exit-codes.ts'
import { Project } from '../../project/project.ts'
import { readHidden, readRandom, readStandardInput } from '../../terminal/prompts.ts'
import { setMissing } from './missing.ts'
import { printWritten } from './render.ts'

interface SetOptions extends CommonOptions {
  readonly local?: boolean
  readonly shared?: boolean
  readonly random?: string
  readonly missing?: boolean
  readonly forgetFormer?: boolean
}

/** `mappa set NAME`: writes a value into a layer without showing it anywhere. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withCommonOptions(
    command
      .argument('[name]', 'the setting, by its variable name or its path in code')
      .argument('[value]', 'the value; not for a secret, since other users can see command lines'),
    'the stage whose file gets the value (default: the file of all stages)',
  )
    .option('--local', 'write it to a .local file, for this machine only')
    .option('--shared', 'write it to the directory of layersFrom, for all packages that share it')
    .option('--random <bytes>', 'generate a value of this many random bytes, as base64url (RFC 4648)')
    .option('--forget-former', 'do not keep the value that is replaced (for settings with acceptFormerFor)')
    .option('--missing', 'ask for everything that is missing in the stage, one by one')
    .addHelpText(
      'after',
      `
Without a value it is asked for, hidden, or read from standard input. A secret goes into a file
that ends in .local, which git is told to ignore first. With --missing and without a terminal, what is
missing is listed, and the command ends with 1.`,
    )
    .action(async (name: string | undefined, value: string | undefined, options: SetOptions) => {
      mustNameOrAsk(name, options)
      const project = await Project.open(options)
      if (name === undefined) {
        exitWith(await setMissing(project, options.stage, options.json === true))
        return
      }
      const declaration = project.setting(name)
      const stage = options.stage === undefined ? null : project.stage(options.stage).stage
      mustBeClear(declaration, value, stage, options)
      const text = await chooseValue(declaration, value, options)
      const today = new Date().toISOString().slice(0, 10)
      const shared = options.shared === true ? { directory: sharedDirectory(project, declaration.name, stage) } : {}
      const target = { stage, local: options.local === true, ...shared, containsSecret: project.containsSecret }
      const file = chooseLayerFile(declaration, target)
      const inspection = project.inspect(project.stage(stage ?? project.definition.stages[0]))
      const former = options.forgetFormer === true ? null : findFormer(inspection, declaration, { text, file, today })
      const written = await writeSetting(project.root, declaration, text, { ...target, former }, today)
      const stages = stage === null ? project.definition.stages : [stage]
      const overriding = findOverriding(project, declaration.name, written.file, stages)
      printWritten(declaration, { ...written, ...overriding, former }, project.root, options)
      exitWith(EXIT_OK)
    })
}

/** The directory of `layersFrom` that has the name in the stage already; else the highest one. */
function sharedDirectory({ root, definition }: Project, name: string, stage: string | null): string {
  const { layersFrom } = definition
  if (layersFrom.length === 0) throw settingsError(commandProblem('no-shared-files', {}))
  const layers = readLayers(envFiles(root, definition).sources, stage ?? definition.stages[0]!)
  const having = layers.findLast(({ sharedNames, get }) => sharedNames !== undefined && get(name) !== undefined)
  return having === undefined ? layersFrom.at(-1)! : path.posix.dirname(having.id)
}

/** Refuses what is both about one setting and about all, or about none. */
function mustNameOrAsk(name: string | undefined, { missing, local, shared, random }: SetOptions): void {
  const isAlone = local !== true && shared !== true && random === undefined
  const isClear = missing === true ? name === undefined && isAlone : name !== undefined
  if (!isClear) throw settingsError(commandProblem('name-or-missing', {}))
}

/** Refuses what would show a secret or could put it where it was not meant to be. */
function mustBeClear(
  { name, path, secret }: Declaration,
  value: string | undefined,
  stage: string | null,
  options: SetOptions,
) {
  const place = { name, setting: path }
  const problems = []
  if (secret && value !== undefined) problems.push(commandProblem('secret-on-command-line', { name }, place))
  if (secret && stage === null && !options.local) problems.push(commandProblem('secret-without-stage', { name }, place))
  if (value !== undefined && options.random !== undefined) problems.push(commandProblem('value-twice', { name }, place))
  if (problems.length > 0) throw new SettingsError({ title: `${name} was not written`, stage, problems })
}

async function chooseValue(
  { name, description }: Declaration,
  value: string | undefined,
  { random }: SetOptions,
): Promise<string> {
  if (value !== undefined) return value
  if (random !== undefined) return readRandom(random)
  return process.stdin.isTTY ? readHidden(`${name} (${description})`) : readStandardInput()
}
