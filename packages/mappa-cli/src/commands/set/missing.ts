import { hasErrors } from '@mappa/core/problems/problem'
import type { Inspection } from '@mappa/node/load/inspect'
import { findMissing, type MissingSetting } from '../../analysis/set/missing.ts'
import { findOverriding } from '../../analysis/set/overriding.ts'
import { listFaults, writeSetting } from '../../analysis/set/write-setting.ts'
import { EXIT_OK, EXIT_PROBLEMS } from '../../command-line/exit-codes.ts'
import type { Project } from '../../project/project.ts'
import { askForValue } from '../../terminal/prompts.ts'
import { printAsking, printMissing, printOutcome, printQuestion, printWritten } from './render.ts'

/**
 * Asks for every value that a stage lacks and writes each as soon as it is given; without a terminal it lists them.
 *
 * @param asked what `--stage` names
 * @returns what to end with
 */
export async function setMissing(project: Project, asked: string | undefined, json: boolean): Promise<number> {
  const stage = project.stage(asked)
  const look = () => project.inspect(stage)
  let inspection = look()
  if (json || process.stdin.isTTY !== true) {
    const missing = findMissing(inspection)
    printMissing(missing, inspection.stage, json)
    return missing.length === 0 ? EXIT_OK : EXIT_PROBLEMS
  }
  const skipped = new Set<string>()
  printAsking(findMissing(inspection), inspection.stage)
  // A value can make another one required, so it is looked again after each.
  for (let next = chooseNext(inspection, skipped); next !== undefined; next = chooseNext(inspection, skipped)) {
    if (!(await askAndWrite(next, inspection, project))) skipped.add(next.declaration.path)
    inspection = look()
  }
  printOutcome(inspection, findMissing(inspection))
  return hasErrors(inspection.problems) ? EXIT_PROBLEMS : EXIT_OK
}

function chooseNext(inspection: Inspection, skipped: ReadonlySet<string>): MissingSetting | undefined {
  return findMissing(inspection).find(({ declaration }) => !skipped.has(declaration.path))
}

/** Asks for one value; `false` if it was skipped. */
async function askAndWrite(missing: MissingSetting, { stage }: Inspection, project: Project): Promise<boolean> {
  const { declaration } = missing
  const target = { stage, local: false, containsSecret: project.containsSecret }
  printQuestion(missing)
  const text = await askForValue({
    name: declaration.name,
    secret: declaration.secret,
    check: (given) => listFaults(declaration, given, target)[0]?.message ?? null,
  })
  if (text === '') return false
  const today = new Date().toISOString().slice(0, 10)
  const written = await writeSetting(project.root, declaration, text, target, today)
  const overriding = findOverriding(project, declaration.name, written.file, [stage])
  printWritten(declaration, { ...written, ...overriding, former: null }, project.root, {})
  return true
}
