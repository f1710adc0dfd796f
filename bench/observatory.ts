import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const GROUPS = ['dome', 'night', 'camera', 'weather', 'guests', 'archive', 'mount', 'focus', 'power', 'alarm']
const STAGES = ['development', 'staging', 'production', 'rehearsal', 'winter']

/**
 * A project of the observatory with many settings, some of them missing, wrong or the same in two stages.
 *
 * @param count how many settings it has
 * @param lines how many lines the file of production has, comments among them
 * @returns its directory, and the names of its stages
 */
export function largeObservatory(
  count: number,
  lines = 0,
): { readonly root: string; readonly stages: readonly string[] } {
  const root = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  const settings: Record<string, Record<string, object>> = {}
  const files = new Map<string, string[]>(
    STAGES.flatMap((stage) => [
      [stage, []],
      [`${stage}.local`, []],
    ]),
  )
  for (let index = 0; index < count; index++) {
    const group = GROUPS[index % GROUPS.length]!
    const key = `part${Math.floor(index / GROUPS.length)}`
    settings[group] = { ...settings[group], [key]: settingOf(index, group) }
    for (const [at, stage] of STAGES.entries()) {
      // Some are missing.
      if ((index + at) % 17 === 0) continue
      files.get(isSecret(index) ? `${stage}.local` : stage)!.push(`${group}_${key}=`.toUpperCase() + valueIn(index, at))
    }
  }
  const production = files.get('production')!
  while (production.length < lines) production.push(`# What line ${production.length} of this file is about`)
  mkdirSync(join(root, 'src'))
  writeFileSync(join(root, 'package.json'), '{ "name": "dome-api", "type": "module" }')
  writeFileSync(join(root, 'settings.definition.json'), JSON.stringify({ stages: STAGES, settings }, null, 2))
  for (const [stage, text] of files) writeFileSync(join(root, `.env.${stage}`), `${text.join('\n')}\n`)
  return { root, stages: STAGES }
}

const isSecret = (index: number) => index % 9 === 0

function settingOf(index: number, group: string): object {
  const description = `Part ${index} of the ${group}, as the observatory needs it`
  return isSecret(index)
    ? { kind: 'string', description, secret: true, minLength: 12, distinctAcrossStages: true }
    : { kind: 'integer', description, minimum: 1, maximum: 4000 }
}

/** Some values are of the wrong kind. */
function valueIn(index: number, stage: number): string {
  if (isSecret(index)) return `made-up-for-${STAGES[stage]}-${index}`
  return (index + stage) % 23 === 0 ? 'twelve' : String(index + 1)
}
