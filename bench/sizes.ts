import { spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Figure } from './measure.ts'

/** What npm puts on a disk with each of the packages. */
export function sizes(): readonly Figure[] {
  return [
    { what: 'mappa-settings, unpacked', found: kilobytesOf('mappa-settings'), limit: 505, unit: 'kB' },
    { what: 'mappa-cli itself, unpacked', found: kilobytesOf('mappa-cli'), limit: null, unit: 'kB' },
  ]
}

function kilobytesOf(name: string): number {
  const words = ['pack', '--dry-run', '--json', '--ignore-scripts']
  const { stdout } = spawnSync('npm', words, {
    cwd: join(import.meta.dirname, '../packages', name),
    encoding: 'utf8',
    env: { ...process.env, HOME: tmpdir() },
  })
  const [{ unpackedSize }] = JSON.parse(stdout) as [{ unpackedSize: number }]
  return unpackedSize / 1000
}
