import { resolve } from 'node:path'
import { viewProblem } from '@mappa/core/problems/catalogue/views'
import { settingsError } from '@mappa/core/problems/settings-error'
import type { Command } from 'commander'
import { Option } from '../../command-line/commander.ts'
import { type CommonOptions, withCommonOptions, withStoreOptions } from '../../command-line/common-options.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import { LiveProject } from '../../page-server/live-project.ts'
import { getEditor } from '../../page-server/open-editor.ts'
import { startPageServer } from '../../page-server/page-server.ts'
import { Project } from '../../project/project.ts'
import type { StoreChoice } from '../../project/store.ts'
import { printClosed, printLink, printOverview, printReport, printWrittenReport } from './render.ts'
import { type ReportFormat, reportText, writeReport } from './report.ts'

interface ViewOptions extends CommonOptions, StoreChoice {
  readonly port?: string
  readonly editor?: string
  readonly out?: string
  readonly format?: ReportFormat
}

/** `mappa view [STAGE...]`: the stages on a page, or in a report. */
export function configure(command: Command, exitWith: (code: number) => void): void {
  withStoreOptions(withCommonOptions(command.argument('[stage...]', 'stages, all if none is named'), null))
    .option('--port <number>', 'the port of the page (default: a free one)')
    .option('--editor <command>', 'opens files from the page (default: VISUAL, else EDITOR)')
    .option('--out <file>', 'write a report into a file instead: one file, without secrets and without scripts')
    .addOption(
      new Option(
        '--format <format>',
        'the format of the report (default: by the ending of the file, else html)',
      ).choices(['html', 'markdown']),
    )
    .addHelpText(
      'after',
      `
The page is served on this machine alone (127.0.0.1), as long as the command runs. The link opens it
once; the page makes links for other windows. Secrets are never sent to it.`,
    )
    .action(async (stages: readonly string[], options: ViewOptions) => {
      const port = readPort(options)
      const project = await Project.open(options)
      const editor = getEditor(options.editor, process.env, project.root)
      const live = await LiveProject.open(project, { ...options, stages, hasEditor: editor !== null })
      try {
        if (isReport(options)) exitWith(await report(live, options))
        else {
          await serve(live, port, editor)
          exitWith(EXIT_OK)
        }
      } finally {
        live.close()
      }
    })
}

const isReport = ({ out, format, json }: ViewOptions) => out !== undefined || format !== undefined || json === true

/** Writes or prints what the page would show. */
async function report(live: LiveProject, { out, format, json }: ViewOptions): Promise<number> {
  const { overview } = live.state
  if (json === true) printOverview(overview)
  else {
    const chosen = format ?? (out?.endsWith('.md') === true ? 'markdown' : 'html')
    const text = await reportText(live, chosen)
    if (out === undefined) printReport(text)
    else {
      await writeReport(resolve(out), out, text)
      printWrittenReport(out, overview)
    }
  }
  return overview.stages.some(({ errors }) => errors > 0) ? EXIT_PROBLEMS : EXIT_OK
}

/** Serves the page until somebody ends the command. */
async function serve(live: LiveProject, port: number | undefined, editor: string | null): Promise<void> {
  live.watch()
  const server = await startPageServer(live, { editor, ...(port === undefined ? {} : { port }) }).catch((error) => {
    const { code } = error as NodeJS.ErrnoException
    if (code === undefined) throw error
    throw settingsError(viewProblem('port-not-free', { port: String(port ?? 0), reason: code }))
  })
  printLink(server.newLink(), live.state.overview.project)
  await new Promise<void>((end) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => end())
  })
  await server.close()
  printClosed()
}

function readPort({ port }: ViewOptions): number | undefined {
  if (port === undefined) return undefined
  const number = /^\d{1,5}$/.test(port) ? Number(port) : 0
  if (number > 0 && number <= 65_535) return number
  throw settingsError(viewProblem('port-wrong', { port: JSON.stringify(port.slice(0, 80)) }))
}
