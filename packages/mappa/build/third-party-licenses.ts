import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { Plugin } from 'vite'

/**
 * Keeps the licences of packages that are built into this one, as they ask for: `dist/third-party-licenses.txt`.
 *
 * @param copied names of packages that are copied and not built in; none if left out
 */
export function thirdPartyLicenses(copied: readonly string[] = []): Plugin {
  return {
    name: 'third-party-licenses',
    writeBundle({ dir }, bundle) {
      const file = join(dir!, 'third-party-licenses.txt')
      const known = existsSync(file) ? readFileSync(file, 'utf8').split(SEPARATOR) : []
      const modules = Object.values(bundle).flatMap((each) => (each.type === 'chunk' ? each.moduleIds : []))
      const packages = new Set(modules.flatMap((id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+/.exec(id)?.[0] ?? []))
      for (const name of copied) packages.add(directoryOf(name))
      const texts = new Set([...known, ...[...packages].map(noticeOf)])
      writeFileSync(file, [...texts].sort().join(SEPARATOR))
    },
  }
}

function directoryOf(name: string): string {
  const file = createRequire(import.meta.url).resolve(name)
  return file.slice(0, file.lastIndexOf(`/node_modules/${name}/`)) + `/node_modules/${name}`
}

const SEPARATOR = `\n${'-'.repeat(72)}\n\n`

function noticeOf(directory: string): string {
  const { name, version, license } = JSON.parse(readFileSync(join(directory, 'package.json'), 'utf8'))
  const file = readdirSync(directory).find((each) => /^licen[cs]e/i.test(each))
  if (file === undefined) throw new Error(`${name} has no licence file in ${dirname(directory)}.`)
  return `${name} ${version} (${license})\n\n${readFileSync(join(directory, file), 'utf8').trim()}\n`
}
