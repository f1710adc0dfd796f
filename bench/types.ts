import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { median, runNode } from './measure.ts'

const REPOSITORY = join(import.meta.dirname, '..')
const COMPILER = join(REPOSITORY, 'node_modules/typescript/bin/tsc')

/**
 * What a definition of 300 settings, each read once, adds to the compiler, over one setting.
 *
 * @returns milliseconds
 */
export function benchTypes(runs: number): number {
  const directory = mkdtempSync(join(tmpdir(), 'mappa-bench-'))
  try {
    mkdirSync(join(directory, 'node_modules'))
    symlinkSync(join(REPOSITORY, 'packages/mappa-settings'), join(directory, 'node_modules/mappa-settings'))
    writeFileSync(join(directory, 'package.json'), '{ "type": "module" }')
    const options = { strict: true, noEmit: true, module: 'nodenext', target: 'es2022', types: [], skipLibCheck: true }
    for (const [name, count] of [
      ['large', 300],
      ['small', 1],
    ] as const) {
      mkdirSync(join(directory, name))
      writeFileSync(join(directory, name, 'a.ts'), program(count))
      writeFileSync(
        join(directory, name, 'tsconfig.json'),
        JSON.stringify({ compilerOptions: options, include: ['a.ts'] }),
      )
    }
    const times = { large: [] as number[], small: [] as number[] }
    for (let run = 0; run < runs; run++) {
      for (const name of ['large', 'small'] as const) {
        const start = performance.now()
        runNode([COMPILER, '-p', join(directory, name)])
        times[name].push(performance.now() - start)
      }
    }
    return median(times.large) - median(times.small)
  } finally {
    rmSync(directory, { recursive: true })
  }
}

/** A definition in groups of ten, and a program that reads all of it. */
function program(count: number): string {
  const makers = [
    "setting.string('Name of a mirror', { maxLength: 80 })",
    "setting.integer('Width of a mirror', { default: 2400 })",
    "setting.choice('Coat of a mirror', { enum: ['silver', 'gold'], optional: true })",
    "setting.string('Key of a mirror', { secret: true })",
    "setting.list('Ports of a mirror', { items: setting.port('A port') })",
  ]
  const paths = Array.from({ length: count }, (_, i) => [`group${Math.floor(i / 10)}`, `mirror${i}`] as const)
  const groups = [...new Set(paths.map(([group]) => group))].map((group) => {
    const members = paths.flatMap(([own, key], i) => (own === group ? [`${key}: ${makers[i % makers.length]}`] : []))
    return `${group}: { ${members.join(', ')} }`
  })
  return `import { defineSettings, resolveSettings, setting } from 'mappa-settings'
const definition = defineSettings({ ${groups.join(',\n')} })
const settings = resolveSettings(definition).values!
export const all = [${paths.map(([group, key]) => `settings.${group}.${key}`).join(', ')}] as const
`
}
