import { statSync } from 'node:fs'
import { resolve } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import type { ViteDevServer } from 'vite'
import { OWN_IDS } from '../code/modules.ts'
import { addProblems, type Session, toPageError } from '../session/session.ts'

/**
 * Tells of problems with code at the terminal, and has pages that are open give way to the problem page. A verdict on files that have
 * changed since may be wrong, and nothing would take it back, so they are checked again.
 *
 * @param round the round in which the check began
 */
export function tell(problems: readonly Problem[], session: Session, round: number): void {
  if (round !== session.round) {
    if (problems.length > 0) session.reload()
    return
  }
  add(problems, session.violations, session)
}

/** Tells of a module that no page may have and that no module imports. Whoever asked for it is shown why. */
export function tellRequested(target: string, session: Session): void {
  add([pageProblem('entry-in-page', { target })], session.requested, session)
}

function add(problems: readonly Problem[], list: Problem[], session: Session): void {
  const before = list.length
  addProblems(list, problems)
  if (list.length === before) return
  for (const { file } of list.slice(before)) {
    if (file !== null)
      session.verdicts.set(resolve(session.state.root, file), getState(resolve(session.state.root, file)))
  }
  session.config!.logger.error(toPageError(list.slice(before), session).message)
}

/** Takes every verdict on code back, since a file has changed. Modules with one are made again, and verdicts again. */
export function takeBack(file: string, server: ViteDevServer, session: Session): void {
  // Vite does the same a little later. Until then, a module would be verdicts by what it imported before.
  for (const { moduleGraph } of Object.values(server.environments)) moduleGraph.onFileChange(file.replaceAll('\\', '/'))
  session.round++
  session.verdicts.clear()
  const verdicts = [session.violations, session.requested]
  if (verdicts.every((each) => each.length === 0)) return
  for (const each of verdicts) each.length = 0
  session.reload()
}

/** Takes verdicts back on files that have changed unnoticed: what watches files leaves out a change soon after another one. */
export function noticeChanges(server: ViteDevServer, session: Session): void {
  const changed = [...session.verdicts].find(([file, state]) => getState(file) !== state)
  if (changed !== undefined) takeBack(changed[0], server, session)
}

/** By now a module may import what was asked for without one, and then the page is refused. */
export function forgetRequested(server: ViteDevServer, session: Session): void {
  if (session.requested.length === 0) return
  session.requested.length = 0
  invalidate(server, session)
}

function getState(file: string): string {
  const stats = statSync(file, { throwIfNoEntry: false })
  return `${stats?.mtimeMs} ${stats?.size}`
}

/** Has every page reloaded, with the values that hold now. */
export function reload(server: ViteDevServer, session: Session): void {
  invalidate(server, session)
  for (const { hot } of Object.values(server.environments)) hot.send({ type: 'full-reload' })
}

/** Has modules made again that were read from the settings, that values were put into, or on which there was a verdict. */
function invalidate({ environments }: ViteDevServer, { replaced }: Session): void {
  for (const { moduleGraph } of Object.values(environments)) {
    for (const [id, module] of moduleGraph.idToModuleMap) {
      if (OWN_IDS.test(id) || replaced.has(id)) moduleGraph.invalidateModule(module)
    }
  }
}
