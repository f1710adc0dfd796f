import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import { updateFiles } from '../../project/update-files.ts'
import type { Finding } from '../survey/findings.ts'
import { changeDefinition } from './definition-change.ts'
import type { MovePlan } from './move-plan.ts'
import type { Obstacle } from './obstacles.ts'
import type { MoveOptions, MoveProject } from './options.ts'
import {
  assemblePlan,
  chooseTargets,
  collectChanges,
  placeObstacles,
  readSources,
  rewriteSources,
  toMoved,
} from './plan-steps.ts'
import type { MovePlace } from './source-changes.ts'

/**
 * Works out what moving findings does, in steps: which sources there are, where each finding goes, what stays and why, how the sources
 * change, and what else has to. Writes nothing.
 *
 * @param refusal says why a place stays as it is, where that is known already
 * @throws {SettingsError} where a path that was asked for can't be used, or the definition can't be added to
 */
export async function draftPlan(
  project: MoveProject,
  findings: readonly Finding[],
  options: MoveOptions,
  refusal: (place: MovePlace) => Obstacle | null,
): Promise<MovePlan> {
  const read = readSources(project, findings, options)
  const targets = chooseTargets(project, findings, options, read)
  const sources = placeObstacles(read.sources, targets, refusal)
  const places = sources.flatMap((each) => each.places)
  // A value moves only where something can be put in its place.
  const movable = targets.filter(({ finding }) =>
    places.some((each) => each.finding === finding && each.obstacle === null),
  )
  const { definition, change } = await changeDefinition(project, movable)
  const moved = movable.map((target) => toMoved(target, definition, places, options.stage))
  const rewritten = rewriteSources(project, { sources, module: read.module }, moved, options)
  const others = collectChanges(project, { ...read, definition, change, moved, rewritten }, options)
  return assemblePlan(project, options, { ...read, ...others, definition, moved, rewritten, sources, places })
}

/**
 * Carries out a plan: all of it, or, where something is in the way, none.
 *
 * @throws {SettingsError} where a file has changed since, can't be written, or git tracks a file that a secret goes into
 */
export async function applyPlan(root: string, { changes, secretFiles, templates }: MovePlan): Promise<void> {
  // What is filled with secrets is ignored although git may track it still.
  const ignoring = changes.filter(({ file }) => file === '.gitignore')
  if (templates.some(({ hasSecrets }) => hasSecrets)) await updateFiles(root, ignoring)
  for (const file of secretFiles) await ensureIgnored(root, file)
  await updateFiles(
    root,
    changes.filter(({ file }) => file !== '.gitignore'),
  )
}
