import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import type { Command } from 'commander'
import { exportStage } from '../../analysis/export/export-stage.ts'
import { formats } from '../../analysis/export/formats/index.ts'
import { Option } from '../../command-line/commander.ts'
import { type CommonOptions, withCommonOptions, withProgramOption } from '../../command-line/common-options.ts'
import { EXIT_OK } from '../../command-line/exit-codes.ts'
import { type Output, outputPath, writeOutputs } from '../../project/outputs.ts'
import { Project } from '../../project/project.ts'
import { printContent, printEnvironment, printOutputs } from './render.ts'

interface ExportOptions extends CommonOptions {
  readonly as: string
  readonly out?: string
  readonly withSecrets?: boolean
  readonly force?: boolean
  readonly configMap?: string
  readonly secret?: string
}

/** `mappa export --as FORMAT`: the values of a stage, for another program. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  const list = formats.map(({ name, summary }) => `  ${name.padEnd(10)}  ${summary}`).join('\n')
  withProgramOption(withCommonOptions(command))
    .addOption(new Option('--as <format>', 'the format').choices(formats.map(({ name }) => name)).makeOptionMandatory())
    .option('--with-secrets', 'write secrets too (default: they are left out, and listed)')
    .option('--out <file>', 'write to a file, or a directory, instead of standard output')
    .option('--force', 'overwrite a file that was changed by hand')
    .option('--config-map <name>', 'with kubernetes: the name of the ConfigMap (default: that of the project)')
    .option('--secret <name>', 'with kubernetes: the name of the Secret (default: that of the project)')
    .addHelpText(
      'after',
      `
Formats:
${list}

A value that a format can't hold is an error. Files with secrets can only be read by their owner, and git
is told to ignore them.`,
    )
    .action(async (options: ExportOptions) => {
      const format = formats.find(({ name }) => name === options.as)!
      const project = await Project.open(options)
      const { root } = project
      const name = resourceName(project.manifest.name ?? path.basename(root))
      const names = {
        configMap: resourceNamed(options.configMap ?? name),
        secret: resourceNamed(options.secret ?? name),
      }
      const stage = project.stage(options.stage)
      const inspection = project.inspect(stage)
      const exported = exportStage(inspection, format, names, options.withSecrets === true)
      printEnvironment(inspection, exported)
      const { content, hasSecrets } = exported
      if (options.out === undefined) {
        if (typeof content !== 'string') throw settingsError(commandProblem('out-needed', { format: format.name }))
        printContent(content, exported, { stage: stage.stage, format: format.name, ...options })
      } else {
        const outputs = toOutputs(content, outputPath(root, options.out), hasSecrets)
        const states = await writeOutputs(root, outputs, options.force === true)
        printOutputs(states, exported, { root, stage: stage.stage, format: format.name, ...options })
      }
      exitWith(EXIT_OK)
    })
}

function toOutputs(content: string | ReadonlyMap<string, string>, out: string, hasSecrets: boolean): readonly Output[] {
  if (typeof content === 'string')
    return [{ file: out, text: content, ownerOnly: hasSecrets, ignoreRule: hasSecrets ? `/${out}` : null }]
  const ignoreRule = hasSecrets ? `/${out}/` : null
  // Who mounts such a directory may not know which of its files are secrets.
  return [...content].map(([name, text]) => ({ file: `${out}/${name}`, text, ownerOnly: true, ignoreRule }))
}

function resourceNamed(name: string): string {
  if (/^(?=.{1,253}$)[a-z0-9]([-a-z0-9.]*[a-z0-9])?$/.test(name)) return name
  throw settingsError(commandProblem('resource-name-wrong', { name: JSON.stringify(name.slice(0, 80)) }))
}

/** A name that Kubernetes takes: a subdomain of RFC 1123. */
function resourceName(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9.]+/g, '-')
      .replace(/^[-.]+|[-.]+$/g, '') || 'settings'
  )
}
