import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { allProblems } from '@mappa/core/problems/catalogue/all'
import type { CatalogueEntry } from '@mappa/core/problems/catalogue/entry'

const FILE = join(import.meta.dirname, '../docs/problems.md')

/** `docs/problems.md`, made from the one place where problems stand. Words in braces are filled in when one is reported. */
export function problemsPage(): string {
  const entries = (Object.entries(allProblems()) as [string, CatalogueEntry][]).sort(([a], [b]) => (a < b ? -1 : 1))
  const sections = entries.map(([code, { severity, message, hint, nearHint }]) =>
    [
      `## ${code}`,
      '',
      `*${severity}.* ${escaped(message)}`,
      '',
      `→ ${escaped(hint)}`,
      ...(nearHint === null ? [] : ['', `→ ${escaped(nearHint)}`]),
      '',
    ].join('\n'),
  )
  return `# Problems\n\nEvery problem has a stable code. An *error* keeps a program from starting, a *notice* does not. Words in braces are\nfilled in when the problem is reported. This page is made by \`npm run build\`.\n\n${sections.join('\n')}`
}

/** Asterisks and angle brackets mean something to Markdown. */
function escaped(text: string): string {
  return text.replace(/[*<>_`]/g, '\\$&')
}

if (process.argv[1] === import.meta.filename) {
  const page = problemsPage()
  let before = ''
  try {
    before = readFileSync(FILE, 'utf8')
  } catch {}
  if (page !== before) writeFileSync(FILE, page)
}
