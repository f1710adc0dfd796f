import { createHmac, randomBytes } from 'node:crypto'
import type { Declaration } from '@mappa/core/definition/definition'
import { describeOriginLabel } from '@mappa/core/layers/layer'
import { writingProblem } from '@mappa/core/problems/catalogue/writing'
import { isSettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { getTarget } from '@mappa/node/fs/replaceable'
import { readText } from '@mappa/node/fs/update-file'
import { findFormer } from '../analysis/set/former.ts'
import { chooseLayerFile, planSetting, type Target, type Written, writeSetting } from '../analysis/set/write-setting.ts'
import { maskedDiff } from '../views/make-diff.ts'
import type { Edit, EditPreview, EditSaved, EditTarget } from '../views/page.ts'
import { problemView } from '../views/problem.ts'
import type { LiveProject } from './live-project.ts'

/** Drawn for each process, so that the version of a text says nothing about it. */
const KEY = randomBytes(32)

const today = () => new Date().toISOString().slice(0, 10)

/** What writing a value would do. Writes nothing. */
export function previewEdit(live: LiveProject, edit: Edit): EditPreview {
  const declaration = live.project.setting(edit.setting)
  const file = chooseLayerFile(declaration, edit)
  const { root } = live.project
  const common = { file, overriddenBy: explainOverriding(live, declaration, edit, file) }
  try {
    const planned = planSetting(root, declaration, edit.text, chooseEditTarget(live, edit), today())
    const names = new Set(live.definition.settings.filter(({ secret }) => secret).map(({ name }) => name))
    const values = declaration.secret ? [edit.text] : []
    return {
      ...common,
      problems: [],
      diff: maskedDiff(planned, { names, values }),
      version: toVersion(planned.before),
    }
  } catch (error) {
    if (!isSettingsError(error)) throw error
    return { ...common, problems: error.problems.map(problemView), diff: null, version: '' }
  }
}

/**
 * Writes a value, if its file is still as it was previewed.
 *
 * @param version what the preview gave
 * @throws {SettingsError} where the file has changed since, or can't be written; nothing has changed then
 */
export async function saveEdit(live: LiveProject, edit: Edit, version: string): Promise<EditSaved> {
  const declaration = live.project.setting(edit.setting)
  const { root } = live.project
  const file = chooseLayerFile(declaration, edit)
  const seen = readText(getTarget(path.join(root, file)), file)
  if (toVersion(seen) !== version) throw settingsError(writingProblem('file-changed', { file }, { file }))
  const written = await writeSetting(root, declaration, edit.text, chooseEditTarget(live, edit), today(), seen)
  await live.refresh()
  return { place: `${file}:${written.line}`, changed: written.changed, notes: listNotes(written) }
}

function chooseEditTarget({ project, inspections }: LiveProject, edit: Edit): Target {
  const inspection = inspections.find((each) => edit.stage === null || each.stage === edit.stage)
  const declaration = project.setting(edit.setting)
  const change = { text: edit.text, file: chooseLayerFile(declaration, edit), today: today() }
  const former = inspection === undefined ? null : findFormer(inspection, declaration, change)
  return { ...edit, former, containsSecret: project.containsSecret }
}

function listNotes({ created, ignored, tightened }: Written): string[] {
  const notes: string[] = []
  if (created) notes.push('The file is new.')
  if (ignored === 'ignored now') notes.push('The file was added to .gitignore.')
  if (ignored === 'no repository') notes.push('This is not a git repository, so the file was not added to .gitignore.')
  if (tightened) notes.push('Other users could read the file. Its mode is now 600: only you can read it.')
  return notes
}

/** Stands for the text of a file. */
function toVersion(text: string | null): string {
  return createHmac('sha256', KEY)
    .update(text === null ? 'none' : `text ${text}`)
    .digest('base64url')
}

/** The place in a higher layer that keeps the value from being used. */
function explainOverriding(
  live: LiveProject,
  { path: own }: Declaration,
  { stage }: EditTarget,
  file: string,
): string | null {
  const inspection = live.inspections.find((each) => stage === null || each.stage === stage)
  const setting = inspection?.settings.find(({ declaration }) => declaration.path === own)
  if (inspection === undefined || setting === undefined) return null
  const ranks = inspection.layers.map(({ id }) => id)
  const winner = setting.candidates()[0]
  if (winner === undefined || ranks.indexOf(winner.layer.id) <= ranks.indexOf(file)) return null
  return describeOriginLabel(winner.origin, winner.layer.title)
}
