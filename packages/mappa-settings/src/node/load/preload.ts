/**
 * `mappa-settings/preload`: for `node --import mappa-settings/preload app.js`. Puts the values of the stage into `process.env` before
 * anything else runs, for code that reads its variables there. What the process was started with stays as it is. Where a
 * setting is missing or wrong, nothing runs: the report is printed, and the process ends with 78, EX_CONFIG of sysexits.h. Where
 * `MAPPA_STORE` names a file such as `settings.store.json`, the values of that store are among them.
 *
 * @module mappa-settings/preload
 */
import type { Definition } from '../../core/definition/definition.ts'
import { hasErrors } from '../../core/problems/problem.ts'
import { isSettingsError } from '../../core/problems/settings-error.ts'
import { findDefinition } from '../project/definition/find.ts'
import { loadDefinition } from '../project/definition/load.ts'
import { runByNode } from '../project/definition/run-by-node.ts'
import { currentDirectory, findRoot } from '../project/root.ts'
import { type FilledVariable, filledIn, filledWith } from './filled-environment.ts'
import { type Inspection, inspectSettings, reportOf } from './inspect.ts'
import { EXIT_CONFIG, printReport } from './load.ts'

try {
  const root = findRoot(currentDirectory())
  const definition = await loadDefinition(findDefinition(root), root, runByNode)
  const storeFile = process.env.MAPPA_STORE ?? ''
  const inspection =
    storeFile === ''
      ? inspectSettings(definition, { root })
      : await (await storeReader()).inspectWithStore(definition, root, storeFile)
  if (inspection.problems.length > 0) printReport(reportOf(inspection))
  if (hasErrors(inspection.problems)) process.exit(EXIT_CONFIG)
  const filled = filledIn(process.env)
  const added: FilledVariable[] = []
  for (const { declaration, text, origin } of inspection.settings) {
    const { name } = declaration
    // What is there for another stage is not meant for this one.
    if (filled.stage !== inspection.stage && filled.names.includes(name)) delete process.env[name]
    if (text === undefined || process.env[name] !== undefined) continue
    process.env[name] = text
    added.push({ name, layer: origin?.layer ?? null })
  }
  process.env.MAPPA_FILLED = filledWith(process.env, inspection.stage, added)
} catch (error) {
  if (!isSettingsError(error)) throw error
  printReport(error.report)
  process.exit(EXIT_CONFIG)
}

/** Taken by its name, since it is above this room, and loaded only where there is a store. */
function storeReader(): Promise<{
  inspectWithStore: (definition: Definition, root: string, file: string) => Promise<Inspection>
}> {
  return import('mappa-settings/store' as string)
}
