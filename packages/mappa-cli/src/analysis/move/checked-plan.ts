import { path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { type Finding, listValues } from '../survey/findings.ts'
import { maskSecrets } from './mask.ts'
import type { MovePlan } from './move-plan.ts'
import { makeObstacle, type Obstacle } from './obstacles.ts'
import type { MoveOptions, MoveProject } from './options.ts'
import { draftPlan } from './plan.ts'
import type { MovePlace } from './source-changes.ts'
import { TypeCheck, type TypeFault } from './type-check.ts'

/** A plan that the project's own compiler has checked. */
export interface CheckedPlan extends MovePlan {
  /** What the compiler would say afterwards, and did not before, of places that nothing is moved from. */
  readonly typeFaults: readonly TypeFault[]
}

/**
 * Works out what moving findings does. Where the project's own TypeScript would not accept it, the place is left as it is, with
 * the reason. Writes nothing.
 *
 * @throws {SettingsError} where a path that was asked for can't be used, or the definition can't be added to
 */
export async function planMove(
  project: MoveProject,
  findings: readonly Finding[],
  options: MoveOptions,
): Promise<CheckedPlan> {
  const refused = new Map<string, Obstacle>()
  const check = new TypeCheck(project.root)
  const secrets = findings.filter(({ secret }) => secret).flatMap(listValues)
  // The compiler quotes types, and a type can be a text.
  const said = (fault: TypeFault) => ({ ...fault, message: shorten(maskSecrets(fault.message, secrets)) })
  while (true) {
    const plan = await draftPlan(project, findings, options, (place) => refused.get(getKey(place)) ?? null)
    const faults = plan.moved.length === 0 ? [] : check.listFaults(plan.changes).map(said)
    const blamed = findBlamed(project.root, plan, faults)
    // Each round leaves more places as they are, so that there is a last one.
    if (blamed.length === 0) return { ...plan, typeFaults: faults }
    for (const { place, fault } of blamed)
      refused.set(getKey(place), makeObstacle('type-check', { message: fault.message }))
  }
}

const shorten = (text: string) => (text.length > 240 ? `${text.slice(0, 239)}…` : text)

const getKey = ({ file, start }: MovePlace) => `${start} ${file}`

interface Blamed {
  readonly place: MovePlace
  readonly fault: TypeFault
}

/** The places behind faults: by the nearest tie that any of them has, since one fault may be the cause of others. */
function findBlamed(root: string, plan: MovePlan, faults: readonly TypeFault[]): readonly Blamed[] {
  const ties = [findPlacesRead, findPlacesImported, findPlacesNear]
  for (const tie of ties) {
    const blamed = faults.flatMap((fault) => tie(plan, fault, root).map((place) => ({ place, fault })))
    if (blamed.length > 0) return blamed
  }
  return []
}

/** Those whose settings are read in the lines that a fault is about. */
function findPlacesRead({ moved, as }: MovePlan, { file, code }: TypeFault): readonly MovePlace[] {
  return moved
    .filter(({ declaration }) =>
      isRead(code, as === 'settings' ? declaration.keys.join('.') : `env.${declaration.name}`),
    )
    .flatMap(({ places }) => places.filter((each) => each.file === file))
}

function findPlacesNear({ moved }: MovePlan, { file }: TypeFault): readonly MovePlace[] {
  return moved.flatMap(({ places }) => places.filter((each) => each.file === file))
}

/** Those on lines with a name that a file imports. */
function findPlacesImported({ moved, changes }: MovePlan, { file }: TypeFault, root: string): readonly MovePlace[] {
  const text = readRegularText(path.join(root, file)) ?? ''
  const imports = [...text.matchAll(/\b(?:import|export)\b([^'"]*)['"](\.\.?\/[^'"\n]+)['"]/g)]
  const names = new Map(
    imports.map(([, clause, from]) => [
      getStem(path.posix.join(path.posix.dirname(file), from!)),
      clause!.match(/[\w$]+/g) ?? [],
    ]),
  )
  return moved.flatMap(({ places }) =>
    places.filter((place) => {
      const before = changes.find((each) => each.file === place.file)?.before ?? ''
      const line = before.split('\n')[place.line - 1] ?? ''
      return names.get(getStem(place.file))?.some((each) => isRead(line, each)) === true
    }),
  )
}

const getStem = (file: string) => file.replace(/\.[cm]?[jt]sx?$/, '')

/** True where code reads a setting, and not one whose name begins like it. */
function isRead(code: string, reading: string): boolean {
  for (let at = code.indexOf(reading); at >= 0; at = code.indexOf(reading, at + 1))
    if (!/[\w$]/.test(code[at + reading.length] ?? '')) return true
  return false
}
