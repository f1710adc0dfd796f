import { viewProblem } from '@mappa/core/problems/catalogue/views'
import { settingsError } from '@mappa/core/problems/settings-error'
import { updateFile } from '@mappa/node/fs/update-file'
import { distribution } from '../../distribution.ts'
import type { LiveProject } from '../../page-server/live-project.ts'
import { toMarkdown } from '../../views/markdown.ts'
import type { Overview } from '../../views/overview.ts'
import { explainSetting, type Story } from '../../views/story.ts'

/** What a report is written in. */
export type ReportFormat = 'html' | 'markdown'

/** What the built report exports. */
interface ReportModule {
  readonly renderReport: (overview: Overview, stories: readonly Story[]) => string
}

/** A report of a project as it is now. */
export async function reportText({ state, inspections }: LiveProject, format: ReportFormat): Promise<string> {
  const { overview } = state
  if (format === 'markdown') return toMarkdown(overview)
  const { renderReport } = (await import(new URL('report/index.js', distribution()).href)) as ReportModule
  const rows = overview.groups.flatMap((group) => group.rows)
  const told = rows.filter(({ cells }) =>
    cells.some(({ severity, overridden }) => severity !== null || overridden.length > 0),
  )
  return renderReport(
    overview,
    told.flatMap(({ path }) => explainSetting(path, inspections, null) ?? []),
  )
}

/** By what a report is known as one, and may be replaced. */
const OWN = /<meta name="generator" content="mappa view"\/>|^### Settings of /

/**
 * Writes a report. A file that is no report stays as it is.
 *
 * @param shown the path to name
 * @throws {SettingsError} where the file can't be written, or is something else
 */
export async function writeReport(file: string, shown: string, text: string): Promise<void> {
  await updateFile(file, (before) => {
    if (before !== null && before.trim() !== '' && !OWN.test(before.slice(0, 2000)))
      throw settingsError(viewProblem('report-in-the-way', { file: shown }, { file: shown }))
    return text
  })
}
