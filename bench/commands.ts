import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { inTurn, type Measured, runNode } from './measure.ts'

const COMMAND = join(import.meta.dirname, '../packages/mappa-cli/dist/main.js')

/** Starting `true` by `mappa run`, and comparing 5 stages with 300 settings, over starting an empty program. */
export function benchRunAndCompare(runs: number): Measured[] {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    const stages = ['development', 'staging', 'production', 'canary', 'rehearsal']
    const mirrors = Array.from({ length: 300 }, (_, index) => [
      `mirror${index}`,
      index % 3 === 0
        ? { kind: 'integer', description: 'Width of a mirror', minimum: 0, default: 2400 }
        : { kind: 'string', description: 'Name of a mirror', secret: index % 3 === 1 },
    ])
    const whole = { stages, settings: { tower: Object.fromEntries(mirrors) } }
    const small = {
      settings: { dome: { url: { kind: 'url', description: 'Address', default: 'https://dome.example' } } },
    }
    for (const [name, definition] of Object.entries({ whole, small })) {
      mkdirSync(join(directory, name))
      writeFileSync(join(directory, name, 'settings.definition.json'), JSON.stringify(definition))
      writeFileSync(join(directory, name, 'empty.mjs'), '')
    }
    for (const stage of stages) {
      const lines = Array.from(
        { length: 300 },
        (_, index) => `TOWER_MIRROR${index}=${index % 3 === 0 ? index : `${stage} ${index}`}`,
      )
      writeFileSync(
        join(directory, 'whole', `.env.${stage}`),
        `${lines.map((line) => line.replace('=', '="').concat('"')).join('\n')}\n`,
      )
    }
    const measured = (name: string, words: readonly string[]) =>
      inTurn(
        runs,
        () => runNode([COMMAND, ...words], { cwd: join(directory, name) }),
        () => runNode(['empty.mjs'], { cwd: join(directory, name) }),
      )
    return [
      { what: 'mappa run -- true / empty program', ...measured('small', ['run', '--', 'true']), runs, limit: 1.8 },
      {
        what: 'mappa compare, 5 stages with 300 settings / empty program',
        ...measured('whole', ['compare']),
        runs,
        limit: 2,
      },
    ]
  } finally {
    rmSync(directory, { recursive: true })
  }
}
