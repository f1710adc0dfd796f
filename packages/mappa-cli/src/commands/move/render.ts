import { isEnvFile } from '@mappa/core/layers/env-file-name'
import { describeSkip } from '@mappa/core/problems/skip-reasons'
import { escapeInvisible } from '@mappa/core/text/escape-invisible'
import type { CheckedPlan } from '../../analysis/move/checked-plan.ts'
import type { MovePlan } from '../../analysis/move/move-plan.ts'
import { describeObstacle } from '../../analysis/move/obstacles.ts'
import { MAX_FILE_BYTES } from '../../analysis/move/remaining.ts'
import { type Finding, listValues } from '../../analysis/survey/findings.ts'
import { formatDiff } from '../../terminal/diff.ts'
import { makeLabel } from '../../terminal/failure.ts'
import { printJson } from '../../terminal/json.ts'
import { out } from '../../terminal/streams.ts'
import { maskedDiff } from '../../views/make-diff.ts'

/** Shows the whole change before anything is written: what moves where, the differences, and what is left alone. */
export function printPlan(plan: MovePlan, findings: readonly Finding[], root: string): void {
  const { paint, print } = out
  const label = makeLabel(root)
  const { moved, changes, left, stage } = plan
  if (moved.length > 0) print(`${paint.strong('Move')}, with the values for ${paint.strong(stage)}:`)
  for (const { finding, declaration, layers, places } of moved) {
    const count = `${places.length} place${places.length === 1 ? '' : 's'}`
    print(
      `  ${paint.strong(declaration.name)}  ${finding.masked}  ${count} -> ${layers.length === 0 ? `default of ${declaration.path}` : layers.map(({ file }) => label(file)).join(', ')}`,
    )
  }
  const secrets = findings.filter(({ secret }) => secret).flatMap(listValues)
  const hidden = {
    names: new Set(plan.definition.settings.filter(({ secret }) => secret).map(({ name }) => name)),
    values: secrets,
  }
  for (const change of changes) print(`\n${formatDiff(maskedDiff(change, hidden), label(change.file))}`)
  if (left.length > 0) print(`${moved.length > 0 ? '\n' : ''}${leftLines(plan, label).join('\n')}`)
  if (plan.notSearched.length > 0)
    print(
      `\nNot searched for what is left: ${listed(plan.notSearched.map(({ file, why }) => `${label(file)} (${describeSkip(why, MAX_FILE_BYTES)})`))}.`,
    )
}

/** Says that nothing was written, and how it would be. */
export function printNotWritten(plan: MovePlan): void {
  const { print } = out
  print(
    plan.moved.length === 0
      ? '\nNothing can be moved, and nothing was written.'
      : '\nNothing was written. Add --yes to write all of it.',
  )
}

/** Says what was written, and what comes next. */
export function printMoved(plan: CheckedPlan, root: string): void {
  const { paint, print } = out
  const label = makeLabel(root)
  const { changes, inRepository, secretFiles } = plan
  print(`\nWritten: ${changes.map(({ file }) => paint.strong(label(file))).join(', ')}.`)
  if (secretFiles.length > 0 && !inRepository) {
    print(paint.faint('This is not a git repository, so the files with secrets were not added to .gitignore.'))
  }
  const next = [...stepsForCode(plan, root), ...stepsForValues(plan), ...stepsToUndo(plan, root)]
  if (next.length > 0) print(`\nNext steps:\n${next.map((line) => `  ${line}`).join('\n')}`)
}

/** What is still to be done in the code and its configuration. */
function stepsForCode(
  { as, packageMissing, pluginMissing, typeFaults, starts, templates, readsProcess, tracked }: CheckedPlan,
  root: string,
): string[] {
  const { paint } = out
  const label = makeLabel(root)
  const steps: string[] = []
  if (packageMissing)
    steps.push(`The program now reads its settings through mappa: ${paint.strong('npm install mappa-settings')}.`)
  if (pluginMissing !== null)
    steps.push(
      `Pages now read virtual:mappa/browser: add mappa() of 'mappa-settings/vite' to the plugins of ${paint.strong(pluginMissing)}.`,
    )
  for (const { file, line, message } of typeFaults)
    steps.push(
      `The type check of the project now fails at ${escapeInvisible(label(file))}:${line}: ${escapeInvisible(message)}`,
    )
  const commands = starts.map((each) => paint.strong(`mappa run -- ${each}`))
  if (starts.length > 0)
    steps.push(
      `mappa run fills the environment that the code reads:${starts.length === 1 ? ' ' : '\n    '}${commands.join('\n    ')}`,
    )
  const shared = templates.filter(({ file, hasSecrets }) => hasSecrets && tracked.has(file)).map(({ file }) => file)
  if (shared.length > 0)
    steps.push(
      `git tracks files that secrets are filled into now: ${paint.strong(`git rm --cached ${shared.join(' ')}`)}`,
    )
  for (const { file, template, hasSecrets } of templates)
    steps.push(
      `${label(file)} is filled from its template now: ${paint.strong(`mappa fill ${template} --out ${file}${hasSecrets ? ' --with-secrets' : ''}`)}`,
    )
  if (as === 'environment' && readsProcess)
    steps.push(
      `The code reads its environment: ${paint.strong('node --import mappa-settings/preload')} loads it from the files.`,
    )
  return steps
}

/** Which values are missing elsewhere, and which may be known to others. */
function stepsForValues({ lacking, inRepository, moved }: CheckedPlan): string[] {
  const { paint } = out
  const steps = lacking.map(
    ({ stage, names }) =>
      `${stage} has no value yet for ${listed(names)}: ${paint.strong(`mappa set ${names[0]} --stage ${stage}`)}.`,
  )
  if (inRepository && moved.some(({ declaration }) => declaration.secret))
    steps.push(
      `Whatever was committed stays in the history: ${paint.strong('mappa guard --history')} lists the keys to rotate.`,
    )
  return steps
}

/** The first of many names, and how many more there are. */
function listed(names: readonly string[]): string {
  const more = names.length - MOST_NAMES
  return more > 1 ? `${names.slice(0, MOST_NAMES).join(', ')} and ${more} more` : names.join(', ')
}

/** More names than these are counted. */
const MOST_NAMES = 8

function stepsToUndo({ changes, tracked, secretFiles }: CheckedPlan, root: string): string[] {
  const label = makeLabel(root)
  const restorable = changes.filter(({ file }) => tracked.has(file)).map(({ file }) => label(file))
  if (restorable.length === 0) return []
  const made = changes
    .filter(({ file, before }) => before === null && !isEnvFile(file) && !tracked.has(file))
    .map(({ file }) => label(file))
  const removed = made.length === 0 ? '' : `, and remove ${made.join(' and ')}`
  const isOne = secretFiles.length === 1
  const stays = ` ${secretFiles.join(' and ')} stay${isOne ? 's' : ''}, and git still ignores ${isOne ? 'it' : 'them'}.`
  const restore = out.paint.strong(`git restore ${restorable.join(' ')}`)
  return [`To undo: ${restore}${removed}.${secretFiles.length === 0 ? '' : stays}`]
}

/** Prints a plan, carried out or not, as data. */
export function printMoveData(plan: CheckedPlan, written: boolean): void {
  printJson({
    stage: plan.stage,
    written,
    moved: plan.moved.map(({ finding, declaration, layers, places }) => ({
      path: declaration.path,
      name: declaration.name,
      kind: declaration.kind.name,
      secret: declaration.secret,
      masked: finding.masked,
      file: layers.find(({ stage }) => stage === plan.stage)?.file ?? null,
      files: layers.map(({ stage, file }) => ({ stage, file })),
      places: places.map(({ file: inFile, line, column }) => ({ file: inFile, line, column })),
    })),
    left: plan.left.map(({ finding, name, file, line, column, obstacle }) => ({
      name: name ?? finding.name,
      file,
      line,
      column,
      code: obstacle?.code ?? null,
      why: obstacle === null ? null : describeObstacle(obstacle),
    })),
    notSearched: plan.notSearched.map(({ file, why }) => ({ file, why: describeSkip(why, MAX_FILE_BYTES) })),
    files: plan.changes.map(({ file }) => file),
    lacking: plan.lacking,
    starts: plan.starts,
    templates: plan.templates,
    typeFaults: plan.typeFaults.map(({ file, line, message }) => ({ file, line, message })),
  })
}

/** The same where the survey found nothing. */
export function printNothingToMove(stage: string): void {
  printJson({
    stage,
    written: false,
    moved: [],
    left: [],
    files: [],
    lacking: [],
    starts: [],
    templates: [],
    typeFaults: [],
  })
}

function leftLines({ left, moved }: MovePlan, label: (file: string) => string): string[] {
  const { paint } = out
  const names = new Map(moved.map(({ finding, declaration }) => [finding, declaration.name]))
  const lines = left.map(({ finding, name, file, line, column, obstacle }) => {
    const place = `${escapeInvisible(label(file))}:${line}:${column}`
    return `  ${place}  ${paint.strong(name ?? names.get(finding) ?? finding.name)}  ${escapeInvisible(obstacle === null ? '' : describeObstacle(obstacle))}`
  })
  return [paint.notice(`Not moved, to change by hand:`), ...lines]
}
