import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { delimiter, join } from 'node:path'

/** The Chromium of this machine: its whole path, or `null` where there is none. */
export function findChromium() {
  const names = ['chromium', 'chromium-browser', 'google-chrome']
  for (const folder of (process.env.PATH ?? '').split(delimiter)) {
    const found = names.map((name) => join(folder, name)).find(existsSync)
    if (found !== undefined) return found
  }
  return null
}

/** Installs Chromium with the package manager of the system, where it is missing. Pages are tested in it. */
export function ensureChromium() {
  if (findChromium() !== null) return
  console.log('\n== Installing Chromium with apt-get, since pages are tested in it')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  for (const words of [['update'], ['install', '-y', '--no-install-recommends', 'chromium']]) {
    const [program, ...rest] = [...sudo, 'apt-get', '-q', ...words]
    const { status } = spawnSync(program, rest, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
    if (status !== 0) break
  }
  if (findChromium() === null) {
    console.error('Chromium could not be installed here. Install it, so that it is on the PATH, and run this again.')
    process.exit(1)
  }
}
