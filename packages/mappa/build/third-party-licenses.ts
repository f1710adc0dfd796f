import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Plugin } from 'vite'

/** Keeps the licences of packages that are built into this one, as they ask for: `dist/third-party-licenses.txt`. */
export function thirdPartyLicenses(): Plugin {
  return {
    name: 'third-party-licenses',
    writeBundle({ dir }, bundle) {
      const file = join(dir!, 'third-party-licenses.txt')
      const known = existsSync(file) ? readFileSync(file, 'utf8').split(SEPARATOR) : []
      const modules = Object.values(bundle).flatMap((each) => (each.type === 'chunk' ? each.moduleIds : []))
      const packages = new Set(modules.flatMap((id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+/.exec(id)?.[0] ?? []))
      const texts = new Set([...known, ...[...packages].map(noticeOf)])
      writeFileSync(file, [...texts].sort().join(SEPARATOR))
    },
  }
}

const SEPARATOR = `\n${'-'.repeat(72)}\n\n`

function noticeOf(directory: string): string {
  const { name, version, license } = JSON.parse(readFileSync(join(directory, 'package.json'), 'utf8'))
  const file = readdirSync(directory).find((each) => /^licen[cs]e/i.test(each))
  if (file === undefined) throw new Error(`${name} has no licence file in ${dirname(directory)}.`)
  return `${name} ${version} (${license})\n\n${readFileSync(join(directory, file), 'utf8').trim()}\n`
}
