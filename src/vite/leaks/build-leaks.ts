import { relative, resolve } from 'node:path'
import type { Plugin } from 'vite'
import type { Problem } from '../../core/problems/problem.ts'
import { pageError, type Session } from '../session.ts'
import type { Search } from './search.ts'

/** Searches everything that a build makes for values that no page may hold, before it is written and once more behind it. */
export function leakCheck(session: Session): Plugin {
  let search: Search = { needles: [], notSearched: [] }
  /** The length of each file that was searched, by its name. */
  const searched = new Map<string, number>()
  let check: typeof import('./search.ts')
  const look = (file: string, content: string | Uint8Array): Problem[] => {
    searched.set(file, Buffer.byteLength(content))
    return check.leaksIn(file, content, search, session.look.inspection?.settings ?? [])
  }
  /** A problem with a chunk, told from which of its modules the value comes. */
  const withSources = (found: Problem, modules: readonly (readonly [id: string, code: string])[]): Problem => {
    const from = modules
      .filter(([id, code]) => check.leaksIn(id, code, search, []).some(({ name }) => name === found.name))
      .map(([id]) => `from ${relative(session.look.root, id)}`)
    return from.length === 0 ? found : { ...found, trail: from }
  }
  let written = false
  return {
    name: 'mappa:leaks',
    apply: 'build',
    enforce: 'post',
    async buildStart() {
      const { look: known, options, config } = session
      if (this.environment.config.consumer !== 'client' || known.inspection === null) return
      check = await import('./search.ts')
      const { mayAppear = [] } = options
      const problems = check.checkMayAppear(known.definition!.settings, mayAppear)
      search = check.searchFor(known.inspection, mayAppear)
      const { publicDir, build } = config!
      if (publicDir !== '' && build.copyPublicDir)
        problems.push(...check.servedFiles(publicDir).flatMap(({ file, read }) => look(file, read())))
      if (problems.length > 0) throw pageError(problems, session)
    },
    generateBundle: {
      order: 'post',
      handler(_options, bundle) {
        if (this.environment.config.consumer !== 'client') return
        const problems = Object.values(bundle).flatMap((each) => {
          if (each.type === 'asset') return look(each.fileName, each.source)
          const map = each.map ? look(`${each.fileName}.map`, JSON.stringify(each.map)) : []
          const sources = () => Object.entries(each.modules).map(([id, { code }]) => [id, code ?? ''] as const)
          return [...look(each.fileName, each.code).map((one) => withSources(one, sources())), ...map]
        })
        if (problems.length > 0) throw pageError(problems, session)
        written = true
      },
    },
    closeBundle: {
      order: 'post',
      handler() {
        if (this.environment.config.consumer !== 'client' || !written) return
        const { config } = session
        const problems = check
          .servedFiles(resolve(config!.root, this.environment.config.build.outDir))
          .filter(({ file, size }) => searched.get(file) !== size)
          .flatMap(({ file, read }) => look(file, read()))
        if (problems.length > 0) throw pageError(problems, session)
        config!.logger.info(summary(searched.size, search))
      },
    },
  }
}

function summary(files: number, { needles, notSearched }: Search): string {
  const names = new Set(needles.map((each) => each.name)).size
  const lines = [
    `mappa: ${files} file${files === 1 ? '' : 's'} searched, and none holds the value of a private setting (${names} looked for)`,
  ]
  const reasons = new Map<string, string[]>()
  for (const { name, reason } of notSearched) reasons.set(reason, [...(reasons.get(reason) ?? []), name])
  if (reasons.size > 0) lines.push('mappa: not searchable, so not looked for:')
  for (const [reason, own] of reasons) lines.push(`  ${own.join(', ')}: ${reason}`)
  return lines.join('\n')
}
