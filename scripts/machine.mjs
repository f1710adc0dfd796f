import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { delimiter, join } from 'node:path'

/** Programs that tests need, each with the names it has and the package of Debian that brings it. */
const PROGRAMS = {
  // Without the windows of a whole browser, a page takes a quarter of the time.
  'chromium-headless-shell': {
    names: ['chromium-headless-shell', 'chromium', 'chromium-browser', 'google-chrome'],
    why: 'pages are tested in it',
  },
  dash: { names: ['dash'], why: 'what is written must read the same in it' },
  busybox: { names: ['busybox'], why: 'what is written must read the same in it' },
  zsh: { names: ['zsh'], why: 'what is written must read the same in it' },
  fish: { names: ['fish'], why: 'words are completed in it' },
  neovim: { names: ['nvim'], why: 'the language server is tried in it' },
  python3: { names: ['python3'], why: 'an example is written in Python' },
  'php-cli': { names: ['php'], why: 'programs in PHP are changed and then tested' },
  ruby: { names: ['ruby'], why: 'programs in Ruby are changed and then tested' },
  'golang-go': { names: ['go'], why: 'programs in Go are changed and then tested' },
  'etcd-server': { names: ['etcd'], why: 'settings in a store are kept in it' },
  openssl: { names: ['openssl'], why: 'connections that must not be trusted are made with it' },
  jq: { names: ['jq'], why: 'exported JSON must read the same in it' },
  'python3-yaml': {
    why: 'exported YAML must read the same in its YAML 1.1',
    isThere: () => runs('/usr/bin/python3', ['-c', 'import yaml']),
  },
}

/** Names of all programs that tests need. */
export const ALL_PROGRAMS = Object.keys(PROGRAMS)

const runs = (program, words) => spawnSync(program, words, { stdio: 'ignore' }).status === 0

const isThere = (name) => PROGRAMS[name].isThere?.() ?? find(PROGRAMS[name]) !== null

/** The absolute path of a program of this machine; `null` if it has none. */
function find({ names }) {
  for (const directory of (process.env.PATH ?? '').split(delimiter)) {
    const found = names.map((name) => join(directory, name)).find(existsSync)
    if (found !== undefined) return found
  }
  return null
}

/** The Chromium of this machine: its absolute path, or `null` if there is none. */
export function findChromium() {
  return find(PROGRAMS['chromium-headless-shell'])
}

const known = new Map()

/** Those of some programs that this machine does not have. */
export function missingPrograms(names) {
  for (const name of names) if (!known.has(name)) known.set(name, isThere(name))
  return names.filter((name) => !known.get(name))
}

/** What a program is needed for. */
export const describeProgram = (name) => `${name}: ${PROGRAMS[name].why}`

/** Installs what is missing with apt-get, and says so; only as root, and not if MAPPA_NO_INSTALL is set. */
export function installPrograms(names) {
  const missing = missingPrograms(names)
  if (missing.length === 0 || process.env.MAPPA_NO_INSTALL || process.getuid?.() !== 0) return
  console.log(`\n== Installing ${missing.join(', ')} with apt-get (MAPPA_NO_INSTALL=1 turns this off)`)
  for (const words of [['update'], ['install', '-y', '--no-install-recommends', ...missing]]) {
    const { status } = spawnSync('apt-get', ['-q', ...words], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    })
    if (status !== 0) break
  }
  known.clear()
}
