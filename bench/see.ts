import { benchEditor } from './editor.ts'
import { printFigures, printTable } from './measure.ts'
import { benchView } from './view.ts'

/**
 * Measures the page and the language server; `true` where all is within its limit.
 *
 * @param runs how often, for so many times in full
 */
export async function benchSee(runs = (all: number) => all): Promise<boolean> {
  const view = await benchView(runs(15))
  const editor = await benchEditor(runs(31))
  const isFine = printTable('Seeing', [...view.rows, ...editor.rows])
  const areFine = printFigures([
    { what: 'script of one interaction with the page (median)', found: view.interaction, limit: 50, unit: 'ms' },
    { what: 'script of the page, compressed', found: view.script, limit: 150, unit: 'kB' },
    { what: 'from opening the page to 300 settings in 5 stages', found: view.filled, limit: null, unit: 'ms' },
    { what: 'from saving a file to seeing it on the page', found: view.live, limit: 1000, unit: 'ms' },
    { what: 'completion in the editor (median)', found: editor.answers.completion, limit: 50, unit: 'ms' },
    { what: 'hover in the editor (median)', found: editor.answers.hover, limit: 50, unit: 'ms' },
    { what: 'diagnostics in the editor (median)', found: editor.answers.diagnostics, limit: 50, unit: 'ms' },
    { what: 'memory of the language server after 10,000 edits', found: editor.megabytes, limit: 150, unit: 'MB' },
  ])
  return isFine && areFine
}

if (import.meta.filename === process.argv[1]) process.exit((await benchSee()) ? 0 : 1)
