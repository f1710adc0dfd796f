import { readFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { MODULES_FILE, modulesFile } from '@mappa/core/derive/modules'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Session } from './session.ts'

/** Brings the declarations of the virtual modules up to date. A directory that can't be written to is no reason to stop. */
export async function writeDeclarations({ state, options }: Session): Promise<void> {
  const { file, definition, root } = state
  if (options.writeTypes === false || file === null || definition === null) return
  const target = join(dirname(file), MODULES_FILE)
  const text = modulesFile(definition, file)
  try {
    if (readFileSync(target, 'utf8').replaceAll('\r\n', '\n') === text) return
  } catch {}
  try {
    const { writeDerived } = await import('@mappa/node/fs/write-derived')
    const { isForeign } = writeDerived(target, text)
    if (isForeign) throw new Error('somebody else has written it')
  } catch (error) {
    const shown = relative(root, target)
    const reason = (error as Error).message.split('\n', 1)[0]!
    ;(state.report.problems as unknown[]).push(
      pageProblem('types-not-written', { file: shown, reason }, { file: shown }),
    )
  }
}
