import { benchEditor } from './editor.ts'
import { printTable } from './measure.ts'
import { benchView } from './view.ts'

/** Measures the page and the language server; `true` where all is within its limit. */
export async function benchSee(): Promise<boolean> {
  const view = await benchView(15)
  const editor = await benchEditor(31)
  const figures: readonly (readonly [what: string, found: number, limit: number | null, unit: string])[] = [
    ['script of one interaction with the page (median)', view.interaction, 50, 'ms'],
    ['script of the page, compressed', view.script, 150, 'kB'],
    ['from opening the page to 300 settings in 5 stages', view.filled, null, 'ms'],
    ['from saving a file to seeing it on the page', view.live, 1000, 'ms'],
    ['completion in the editor (median)', editor.answers.completion, 50, 'ms'],
    ['hover in the editor (median)', editor.answers.hover, 50, 'ms'],
    ['diagnostics in the editor (median)', editor.answers.diagnostics, 50, 'ms'],
    ['memory of the language server after 10,000 edits', editor.megabytes, 150, 'MB'],
  ]
  const isFine = [printTable('Seeing', [...view.rows, ...editor.rows])]
  for (const [what, found, limit, unit] of figures) {
    console.log(`${what}: ${found.toFixed(1)} ${unit}${limit === null ? '' : ` (limit: ${limit})`}`)
    isFine.push(limit === null || found <= limit)
  }
  return isFine.every(Boolean)
}

if (import.meta.filename === process.argv[1]) process.exit((await benchSee()) ? 0 : 1)
