/**
 * `mappa-settings/preload`: for `node --import mappa-settings/preload app.js`. Puts the values of the stage into `process.env` before
 * anything else runs, for code that reads its variables there. What the process was started with stays as it is. Where a
 * setting is missing or wrong, nothing runs: the report is printed, and the process ends with 78, EX_CONFIG of sysexits.h. Where
 * `MAPPA_STORE` names a file such as `settings.store.json`, the values of that store are among them.
 *
 * @module mappa-settings/preload
 */

import { hasErrors } from '@mappa/core/problems/problem'
import { isSettingsError } from '@mappa/core/problems/settings-error'
import { type FilledVariable, readFilled, writeFilled } from '@mappa/node/load/filled-environment'
import { inspectSettings, toReport } from '@mappa/node/load/inspect'
import { EXIT_CONFIG, printReport } from '@mappa/node/load/load'
import { requireDefinition } from '@mappa/node/project/definition/find'
import { loadDefinition } from '@mappa/node/project/definition/load'
import { runByNode } from '@mappa/node/project/definition/run-by-node'
import { findRoot, getCurrentDirectory } from '@mappa/node/project/root'

try {
  const root = findRoot(getCurrentDirectory())
  const definition = await loadDefinition(requireDefinition(root), root, runByNode)
  const storeFile = process.env.MAPPA_STORE ?? ''
  const inspection =
    storeFile === ''
      ? inspectSettings(definition, { root })
      : await (await import('@mappa/node/stores/inspect')).inspectWithStore(definition, root, storeFile)
  const problems = [...inspection.problems, ...inspection.startNotices]
  if (problems.length > 0) printReport(toReport({ ...inspection, problems }))
  if (hasErrors(inspection.problems)) process.exit(EXIT_CONFIG)
  const filled = readFilled(process.env)
  const added: FilledVariable[] = []
  for (const { declaration, text, origin } of inspection.settings) {
    const { name } = declaration
    // What is there for another stage is not meant for this one.
    if (filled.stage !== inspection.stage && filled.names.includes(name)) delete process.env[name]
    // What lies in the environment already stays, unless it was loaded there from an env file that does not hold.
    const now = process.env[name]
    if (text === undefined || now === '' || (now !== undefined && origin?.layer === 'environment')) continue
    process.env[name] = text
    added.push({ name, layer: origin?.layer ?? null })
  }
  process.env.MAPPA_FILLED = writeFilled(process.env, inspection.stage, added)
} catch (error) {
  if (!isSettingsError(error)) throw error
  printReport(error.report)
  process.exit(EXIT_CONFIG)
}
