import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import { getLanguage } from '@mappa/source'
import { canChange } from '../../analysis/move/choose-driver.ts'
import type { Finding } from '../../analysis/survey/findings.ts'
import type { Read } from '../../analysis/survey/reads.ts'
import type { Survey } from '../../analysis/survey/survey.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'

/** How many places of one finding or read are written out. */
const MAX_PLACES = 6

/** Prints what a survey found. Values of secrets are masked. */
export function printSurvey(survey: Survey, root: string, hasDefinition: boolean, { json }: { json?: boolean }): void {
  const { findings, reads, unread, files, skipped } = survey
  if (json) {
    printJson({ findings: findings.map(findingAsData), reads: reads.map(readAsData), unread, files, skipped })
    return
  }
  const { paint, print } = out
  const label = makeLabel(root)
  if (findings.length === 0) print(`${paint.strong('Survey')}: no settings or keys found in the code.`)
  else
    print(`${paint.strong('Survey')}: ${paint.error(`${findings.length} finding${findings.length === 1 ? '' : 's'}`)}`)
  for (const each of findings) print(`\n${findingLines(each, label).join('\n')}`)
  const odd = reads.filter(({ declared, ofSystem }) => !declared && !ofSystem)
  if (hasDefinition && (odd.length > 0 || unread.length > 0)) print(`\n${readLines(odd, unread, label).join('\n')}`)
  if (!hasDefinition && odd.length > 0) {
    print(`\n${paint.strong('Variables that the code reads')}: ${odd.map(({ name }) => name).join(', ')}`)
  }
  printWhatToDo(findings, reads)
  print(paint.faint(`\nScanned ${files} file${files === 1 ? '' : 's'}.`))
  for (const { file, why } of skipped.slice(0, MAX_PLACES))
    print(paint.faint(`Skipped ${escapeInvisible(label(file))}: ${why}.`))
  if (skipped.length > MAX_PLACES) print(paint.faint(`Skipped ${skipped.length - MAX_PLACES} more; --json lists them.`))
}

function printWhatToDo(findings: readonly Finding[], reads: readonly Read[]): void {
  const { print } = out
  if (reads.some(({ faults }) => faults.length > 0))
    print('\nDeclare what the code reads. To say that a read is meant, write a comment there: mappa-ignore: <reason>')
  if (findings.length === 0) return
  print(`\n${describeMove(findings.flatMap(({ places }) => places.map(({ file }) => file)))}`)
  print('To suppress a finding, write a comment on its line or the one above: mappa-ignore: <reason>')
}

/** What `mappa move` does in such files, and how their programs get the values then. */
function describeMove(files: readonly string[]): string {
  const { strong } = out.paint
  const changed = files.filter(canChange)
  if (changed.length === 0)
    return `These files can't read variables: ${strong('mappa move --templates')} makes templates of them for ${strong('mappa fill')}.`
  const moves = `${strong('mappa move')} moves them to env files.`
  if (changed.every((file) => getLanguage(file)?.readsByPath === true)) return moves
  return `${moves} ${strong('mappa run')} starts a program in any language with them.`
}

function findingLines(
  { number, places, path, name, like, kind, secret, confidence, why, masked }: Finding,
  label: (file: string) => string,
): string[] {
  const { paint } = out
  const lines = [`  ${paint.strong(`${number}.`)} ${paint.strong(name)}  ${masked}`]
  lines.push(`     ${escapeInvisible(why)}; confidence ${Math.round(confidence * 100)} %`)
  lines.push(`     ${paint.faint(`proposed: ${path}, ${kind}${secret ? ', secret' : ''}`)}`)
  if (like !== null) lines.push(`     ${paint.faint(`the definition already has ${like}, which may be the same`)}`)
  for (const place of places.slice(0, MAX_PLACES))
    lines.push(`     ${escapeInvisible(label(place.file))}:${place.line}:${place.column}`)
  if (places.length > MAX_PLACES) lines.push(`     ... and ${places.length - MAX_PLACES} more places`)
  return lines
}

function readLines(odd: readonly Read[], unread: readonly string[], label: (file: string) => string): string[] {
  const { paint } = out
  const lines: string[] = []
  for (const { name, places, near, faults } of odd) {
    const style = faults.length > 0 ? paint.error : paint.notice
    const { file, line, column } = places[0]!
    const where = `${escapeInvisible(label(file))}:${line}:${column}${places.length > 1 ? ` and ${places.length - 1} more` : ''}`
    lines.push(
      `  ${style('read, not declared')}  ${paint.strong(name)}  ${where}${near === null ? '' : `  (did you mean ${near}?)`}`,
    )
  }
  for (const name of unread) lines.push(`  ${paint.notice('declared, not read')}  ${paint.strong(name)}`)
  return lines
}

function findingAsData({ number, places, path, name, like, kind, secret, confidence, why, masked }: Finding) {
  const at = places.map(({ file, line, column }) => ({ file, line, column }))
  return { number, places: at, path, name, like, kind, secret, confidence, why, masked }
}

function readAsData({ name, places, needed, declared, near, ofSystem, faults }: Read) {
  return { name, places, needed, declared, near, ofSystem, faults }
}
