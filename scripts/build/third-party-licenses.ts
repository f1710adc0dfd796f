import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { Plugin } from 'vite'

/**
 * Keeps the licences of packages that are built into this one, as they ask for: `dist/third-party-licenses.txt`. Those who share one
 * share its text, below all their names and copyright notices.
 *
 * @param copied names of packages that are copied and not built in; none if left out
 */
export function thirdPartyLicenses(copied: readonly string[] = []): Plugin {
  return {
    name: 'third-party-licenses',
    writeBundle({ dir }, bundle) {
      const file = join(dir!, 'third-party-licenses.txt')
      const modules = Object.values(bundle).flatMap((each) => (each.type === 'chunk' ? each.moduleIds : []))
      const packages = new Set(modules.flatMap((id) => /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+/.exec(id)?.[0] ?? []))
      for (const name of copied) packages.add(directoryOf(name))
      // Another part of the package has been built before.
      const notices = existsSync(file) ? readFileSync(file, 'utf8').split(SEPARATOR).flatMap(noticesIn) : []
      for (const each of packages) notices.push(noticeOf(each))
      const byText = new Map<string, Set<string>>()
      for (const { owner, text } of notices) byText.set(text, (byText.get(text) ?? new Set()).add(owner))
      const blocks = [...byText].map(([text, owners]) => [...owners].sort().join('\n\n') + BELOW + text)
      writeFileSync(file, blocks.sort().join(SEPARATOR))
    },
  }
}

function directoryOf(name: string): string {
  const file = createRequire(import.meta.url).resolve(name)
  return file.slice(0, file.lastIndexOf(`/node_modules/${name}/`)) + `/node_modules/${name}`
}

const SEPARATOR = `\n\n${'-'.repeat(72)}\n\n`
/** Between the owners of a licence and its text. */
const BELOW = '\n\n\n'

interface Notice {
  /** The package, and what it says of its copyright. */
  readonly owner: string
  readonly text: string
}

function noticesIn(block: string): Notice[] {
  const [owners = '', text = ''] = block.split(BELOW)
  return owners.split('\n\n').map((owner) => ({ owner, text }))
}

function noticeOf(directory: string): Notice {
  const { name, version, license } = JSON.parse(readFileSync(join(directory, 'package.json'), 'utf8'))
  const file = readdirSync(directory).find((each) => /^licen[cs]e/i.test(each))
  if (file === undefined) throw new Error(`${name} has no licence file in ${dirname(directory)}.`)
  // Lines are broken in other places by each.
  const paragraphs = readFileSync(join(directory, file), 'utf8')
    .trim()
    .split(/\n\s*\n/)
    .map((each) => each.trim().replaceAll(/\s+/g, ' '))
  const isOwn = (each: string) => /^(?:Copyright|\(?(?:The )?(?:MIT|ISC) License\b)/i.test(each)
  const text = paragraphs.filter((each) => !isOwn(each)).join('\n\n')
  if (text === '') throw new Error(`The licence of ${name} in ${directory} can't be told from its copyright notice.`)
  return {
    owner: [`${name} ${version} (${license})`, ...paragraphs.filter((each) => /^Copyright/i.test(each))].join('\n'),
    text,
  }
}
