import { basename, dirname, join, relative } from 'node:path'
import type { Command } from 'commander'
import type { Definition } from '../../../../mappa/src/core/definition/definition.ts'
import { definitionSchema } from '../../../../mappa/src/core/derive/definition-schema.ts'
import { environmentSchema } from '../../../../mappa/src/core/derive/environment-schema.ts'
import { exampleFile } from '../../../../mappa/src/core/derive/example.ts'
import { MODULES_FILE, modulesFile } from '../../../../mappa/src/core/derive/modules.ts'
import { referenceFile } from '../../../../mappa/src/core/derive/reference.ts'
import { valuesSchema } from '../../../../mappa/src/core/derive/schema.ts'
import { typesFile } from '../../../../mappa/src/core/derive/types.ts'
import { isRegularFile } from '../../../../mappa/src/node/fs/regular-file.ts'
import { writeDerived } from '../../../../mappa/src/node/fs/write-derived.ts'
import type { CommonOptions } from '../../command-line/common-options.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { withSubcommands } from '../../command-line/subcommands.ts'
import { Project } from '../../project/project.ts'
import { type DerivedFile, printDerived } from './render.ts'

interface WriteOptions extends CommonOptions {
  readonly verify?: boolean
  readonly outDir?: string
}

/** Something that derives from a definition. */
interface Derived {
  readonly name: string
  readonly summary: string
  /** The files it goes into, relative to the root, with their texts; `beside` is the directory of the definition, `file` its absolute path. */
  readonly files: (
    definition: Definition,
    beside: string,
    file: string,
  ) => readonly (readonly [file: string, text: string])[]
}

const asJson = (data: object) => `${JSON.stringify(data, null, 2)}\n`

const DERIVED: readonly Derived[] = [
  {
    name: 'example',
    summary: '.env.example: every setting with its description, rules and a placeholder',
    files: (definition) => [['.env.example', exampleFile(definition)]],
  },
  {
    name: 'types',
    summary: 'settings.env.d.ts: types of process.env, and descriptions of settings for editors',
    files: (definition, beside, file) => [[join(beside, 'settings.env.d.ts'), typesFile(definition, file)]],
  },
  {
    name: 'modules',
    summary:
      'settings.modules.d.ts: types of virtual:mappa/browser and virtual:mappa/server, for pages built with Vite',
    files: (definition, beside, file) => [[join(beside, MODULES_FILE), modulesFile(definition, file)]],
  },
  {
    name: 'reference',
    summary: 'docs/settings.md: every setting in tables, in Markdown',
    files: (definition) => [[join('docs', 'settings.md'), referenceFile(definition)]],
  },
  {
    name: 'schema',
    summary:
      'settings.schema.json and settings.environment.schema.json: JSON Schema (2020-12) of the values and of their texts',
    files: (definition) => [
      ['settings.schema.json', asJson(valuesSchema(definition))],
      ['settings.environment.schema.json', asJson(environmentSchema(definition))],
    ],
  },
  {
    name: 'definition-schema',
    summary:
      'settings.definition.schema.json: JSON Schema of a definition in JSON, by which editors complete it ("$schema")',
    files: (_definition, beside) => [[join(beside, 'settings.definition.schema.json'), asJson(definitionSchema())]],
  },
]

/** `mappa write`: writes what derives from the definition. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withSubcommands(
    withWriteOptions(command.option('--all', 'every derived file that already exists')),
    async (options: WriteOptions & { all?: boolean }) => {
      if (options.all !== true) command.help({ error: true })
      const project = await Project.open(options)
      const all = DERIVED.flatMap(({ files }) => filesOf(files, project, options))
      const there = all.filter(([file]) => isRegularFile(join(project.root, file)))
      await writeFiles(there, 'all', project.root, options, exitWith)
    },
  )
  for (const { name, summary, files } of DERIVED) {
    withWriteOptions(command.command(name).description(summary).helpOption('-h, --help', 'print this help'))
      .exitOverride()
      .action(async (_: WriteOptions, own: Command) => {
        const options = own.optsWithGlobals<WriteOptions>()
        const project = await Project.open(options)
        await writeFiles(filesOf(files, project, options), name, project.root, options, exitWith)
      })
  }
}

function withWriteOptions(command: Command): Command {
  return command
    .option('--verify', 'write nothing; fail if a file is out of date')
    .option('--out-dir <directory>', 'write to another directory, relative to the project')
    .option(
      '--root <directory>',
      'the directory of the project (default: the nearest one with a package.json or settings.definition.json)',
    )
    .option('--settings <file>', 'the definition (default: settings.definition.* in the project directory or its src)')
    .option('--json', 'print JSON')
}

function filesOf(files: Derived['files'], { root, definition, definitionFile }: Project, options: WriteOptions) {
  const source = definitionFile!
  const { outDir } = options
  return files(definition, relative(root, dirname(source)), source).map(
    ([own, text]) => [outDir === undefined ? own : join(outDir, basename(own)), text] as const,
  )
}

async function writeFiles(
  files: readonly (readonly [file: string, text: string])[],
  name: string,
  root: string,
  options: WriteOptions,
  exitWith: (code: number) => void,
): Promise<void> {
  const states: DerivedFile[] = []
  for (const [file, text] of files) {
    states.push({ file, ...(await writeDerived(join(root, file), text, options.verify === true)) })
  }
  printDerived(states, name, root, options)
  exitWith(options.verify && states.some(({ right }) => !right) ? EXIT_PROBLEMS : EXIT_FINE)
}
