import { dirname, join, relative } from 'node:path'
import type { Command } from 'commander'
import type { Definition } from '../core/definition/definition.ts'
import { exampleFile } from '../core/derive/example.ts'
import { referenceFile } from '../core/derive/reference.ts'
import { environmentSchema, valuesSchema } from '../core/derive/schema.ts'
import { typesFile } from '../core/derive/types.ts'
import { findDefinition } from '../node/definition/find.ts'
import { writeDerived } from '../node/writing/write-derived.ts'
import { EXIT_FINE, EXIT_PROBLEMS } from './exit-codes.ts'
import { type CommonOptions, openProject } from './project.ts'
import { printDerived } from './render/derived.ts'

interface WriteOptions extends CommonOptions {
  readonly verify?: boolean
  readonly to?: string
}

/** Something that derives from a definition: where it goes, and its text. */
interface Derived {
  readonly name: string
  readonly summary: string
  /** The file, relative to the root; `beside` is the folder of the definition. */
  readonly file: (beside: string) => string
  readonly text: (definition: Definition) => string
}

const asJson = (data: object) => `${JSON.stringify(data, null, 2)}\n`

const DERIVED: readonly Derived[] = [
  {
    name: 'example',
    summary: '.env.example: every setting with its description, rules and a placeholder',
    file: () => '.env.example',
    text: exampleFile,
  },
  {
    name: 'types',
    summary: 'settings.env.d.ts: types of process.env and import.meta.env',
    file: (beside) => join(beside, 'settings.env.d.ts'),
    text: typesFile,
  },
  {
    name: 'reference',
    summary: 'docs/settings.md: every setting in tables, in Markdown',
    file: () => join('docs', 'settings.md'),
    text: referenceFile,
  },
  {
    name: 'schema',
    summary: 'settings.schema.json: JSON Schema (2020-12) of the typed values',
    file: () => 'settings.schema.json',
    text: (definition) => asJson(valuesSchema(definition)),
  },
  {
    name: 'environment-schema',
    summary: 'settings.environment.schema.json: JSON Schema (2020-12) of the texts in the environment',
    file: () => 'settings.environment.schema.json',
    text: (definition) => asJson(environmentSchema(definition)),
  },
]

/** `mappa write`: writes what derives from the definition. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  command.helpCommand(false)
  for (const { name, summary, file, text } of DERIVED) {
    command
      .command(name)
      .description(summary)
      .helpOption('--help', 'print this help')
      .exitOverride()
      .option('--verify', 'write nothing; say whether the file is as it should be')
      .option('--to <file>', 'write another file, named from the folder of the project')
      .option('--stage <name>', 'has no effect: the file is the same for all stages')
      .option('--root <folder>', 'the folder of the project; else the nearest one with a package.json')
      .option('--settings <file>', 'the definition; else settings.definition.* in the folder or its src')
      .option('--json', 'print JSON for programs')
      .action(async (options: WriteOptions) => {
        const { root, definition } = await openProject(options)
        const target = options.to ?? file(relative(root, dirname(definitionFile(root, options))))
        const state = await writeDerived(join(root, target), text(definition), options.verify === true)
        printDerived({ file: target, command: name, ...state }, root, options)
        exitWith(options.verify && !state.right ? EXIT_PROBLEMS : EXIT_FINE)
      })
  }
}

function definitionFile(root: string, { settings }: WriteOptions): string {
  return findDefinition(root, settings === undefined ? undefined : { file: settings, from: process.cwd() })
}
