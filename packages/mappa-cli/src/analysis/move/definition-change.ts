import { DEFINITION, type Definition } from '@mappa/core/definition/definition'
import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { movingProblem } from '@mappa/core/problems/catalogue/moving'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { loadDefinition } from '../../project/definition/load.ts'
import type { FileChange } from '../../project/update-files.ts'
import { writeDefinition, writeDefinitionJson } from '../init/draft-source.ts'
import { addSetting, type NewSetting, requireSetting } from './definition-source.ts'
import type { MoveProject } from './options.ts'
import type { Target } from './targets.ts'

/** What a project has before its first setting. */
export const NOTHING_DEFINED: Definition = {
  [DEFINITION]: true,
  stages: DEFAULT_STAGES,
  prefix: '',
  directory: null,
  layersFrom: [],
  stagePatterns: [],
  stageLikes: {},
  requireStage: false,
  rules: [],
  programs: [],
  program: null,
  settings: [],
  elsewhere: [],
}

/** The definition with the new settings in it, and the change of its file; `null` where nothing is added. */
export async function changeDefinition(
  { root, definitionFile: file, definition }: MoveProject,
  movable: readonly Target[],
): Promise<{ definition: Definition; change: FileChange | null }> {
  const whole = path.join(root, file)
  const before = readRegularText(whole)
  const start = before ?? (file.endsWith('.json') ? writeDefinitionJson([], null) : writeDefinition([], null))
  const after = movable.reduce((text, each) => withTarget(text, file, each), start)
  if (after === start) return { definition: definition ?? NOTHING_DEFINED, change: null }
  return { definition: await loadDefinition(whole, root, after), change: { file, before, after } }
}

/** The source of the definition, true to what a finding becomes. */
function withTarget(text: string, file: string, target: Target): string {
  if ('added' in target) return withSetting(text, file, target.added)
  if (!('existing' in target) || target.required === undefined) return text
  const { keys, path: own, name } = target.existing
  const after = requireSetting(text, file, keys, target.required.default)
  if (after !== null) return after
  throw reportNotMoved(movingProblem('setting-optional', { path: own, name, file }, { file }))
}

function withSetting(text: string, file: string, added: NewSetting): string {
  const after = addSetting(text, file, added)
  if (after !== null) return after
  throw reportNotMoved(
    movingProblem('definition-not-editable', { file, path: added.keys.join('.'), kind: added.kind }, { file }),
  )
}

function reportNotMoved(why: Problem): SettingsError {
  return new SettingsError({ title: 'Nothing was moved', stage: null, problems: [why] })
}

/** The path of the setting that a finding becomes. */
export function getPath(target: Target): string {
  if ('added' in target) return target.added.keys.join('.')
  return 'existing' in target ? target.existing.path : ''
}
