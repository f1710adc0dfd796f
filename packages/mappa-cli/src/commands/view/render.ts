import { printJson } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'
import type { Overview } from '../../views/overview.ts'

/** Says where the page is. */
export function printLink(link: string, project: string): void {
  const { paint, print } = out
  print(`${paint.strong(`Settings of ${project}`)}: ${link}`)
  print(paint.faint('The link opens the page once, on this machine. Ctrl+C ends it.'))
}

/** Says that the page has gone. */
export function printClosed(): void {
  out.print(out.paint.faint('The page is closed.'))
}

/** Prints a report to be piped on. */
export function printReport(text: string): void {
  out.raw(text)
}

/** Says where a report was written. */
export function printWrittenReport(file: string, { stages }: Overview): void {
  const { paint, print } = out
  const counts = stages.map(
    ({ name, errors }) => `${name} ${errors === 0 ? 'OK' : `${errors} error${errors === 1 ? '' : 's'}`}`,
  )
  print(`Written: ${paint.strong(file)} (${counts.join(', ')}).`)
}

/** Prints the stages as data. */
export function printOverview(overview: Overview): void {
  printJson(overview)
}
