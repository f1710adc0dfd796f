import { listLayerFiles } from '@mappa/core/layers/order'
import { editorProblem } from '@mappa/core/problems/catalogue/editors'
import { settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import type { WorkspaceEdit } from 'vscode-languageserver'
import { describeObstacle } from '../../analysis/move/obstacles.ts'
import { applyPlan } from '../../analysis/move/plan.ts'
import { planOne } from '../../analysis/move/plan-one.ts'
import { chooseLayerFile, writeSetting } from '../../analysis/set/write-setting.ts'
import { surveyProject } from '../../analysis/survey/survey.ts'
import type { EditorProject } from '../editor-project.ts'
import { toUri } from '../places.ts'
import { getDeclaration } from '../setting-at.ts'
import { getLine } from './fixes/fix.ts'
import type { HintData } from './source-hints.ts'

/** What a command did, as a sentence for a person, and what is left for the editor to change. */
export interface Done {
  readonly message: string
  readonly edit: WorkspaceEdit | null
}

/**
 * Moves a secret from a file that others get into the one of this machine, which git is told to ignore before. The editor takes the
 * entry out of the open file.
 *
 * @throws {SettingsError} where it can't be written; nothing has changed then
 */
export async function moveSecret(project: EditorProject, file: string, name: string): Promise<Done> {
  const document = project.document(file)
  const declaration = getDeclaration(project, name)
  const entry = document.get(name)
  if (declaration === undefined || entry === undefined) throw settingsError(editorProblem('entry-gone', { name, file }))
  if (typeof entry.value !== 'string' || entry.broken) throw settingsError(editorProblem('secret-not-fixed', { name }))
  const [shared] = listLayerFiles('')
  const stage = file === shared ? null : (project.listStages(file)[0] ?? null)
  const target = { stage, local: true }
  const there = project.document(chooseLayerFile(declaration, target)).get(name)
  if (there !== undefined && there.value !== entry.value)
    throw settingsError(editorProblem('secret-elsewhere', { name, file: chooseLayerFile(declaration, target) }))
  const today = new Date().toISOString().slice(0, 10)
  const written = await writeSetting(project.root, declaration, entry.value, target, today)
  const same = document.entries.filter((each) => each.name === name)
  const edits = same.map((each) => ({ range: getLine(document, each), newText: '' }))
  const uri = toUri(path.join(project.root, file))
  return { message: `${name} is in ${written.file} now. Save ${file} without it.`, edit: { changes: { [uri]: edits } } }
}

/**
 * Has git ignore a file of this machine.
 *
 * @throws {SettingsError} where git tracks it, so that no rule would help
 */
export async function ignoreFile({ root }: EditorProject, file: string): Promise<Done> {
  const outcome = await ensureIgnored(root, file)
  const says = outcome === 'ignored now' ? 'was added to .gitignore' : 'is ignored already'
  return { message: `${file} ${says}.`, edit: null }
}

/**
 * Moves a finding out of the code, as `mappa move` does, for the stage of a program that is started here.
 *
 * @throws {SettingsError} where it can't be moved; nothing has changed then
 */
export async function moveFinding(
  project: EditorProject,
  file: string,
  { line, column, name }: HintData['finding'],
): Promise<Done> {
  const { root, definition } = project
  const { findings } = surveyProject(root, definition)
  const finding = findings.find(({ places }) =>
    places.some((each) => each.file === file && each.line === line && each.column === column),
  )
  if (finding === undefined) throw settingsError(editorProblem('finding-not-saved', { name }))
  const { stage } = project.project.stage(undefined)
  const place = { root, definition, definitionFile: project.project.definitionPlace }
  const plan = await planOne(place, finding, findings, stage)
  const obstacle = plan.left[0]?.obstacle ?? null
  if (plan.moved.length === 0)
    throw settingsError(
      editorProblem('finding-stays', { name, why: obstacle === null ? 'nothing moves' : describeObstacle(obstacle) }),
    )
  await applyPlan(root, plan)
  const files = plan.changes.map((each) => each.file).join(', ')
  return { message: `${name} was moved, with the value for ${stage}. Written: ${files}.`, edit: null }
}
