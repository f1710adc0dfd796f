import { rmSync } from 'node:fs'
import { relative, resolve } from 'node:path'
import type { Plugin } from 'vite'
import type { Problem } from '../../core/problems/problem.ts'
import { pageError, type Session } from '../session.ts'
import type { Search, Ways } from './search.ts'

type Bundle = Parameters<Extract<Plugin['generateBundle'], (...words: never) => unknown>>[1]

/** Searches everything that a build makes for values that no page may hold, and what lies behind the build. */
export function leakCheck(session: Session): Plugin {
  let search: Search = { needles: [], notSearched: [] }
  /** The length of each file that was searched, by its name. */
  const searched = new Map<string, number>()
  let check: typeof import('./search.ts')
  const look = (file: string, content: string | Uint8Array, ways: Ways = 'all'): Problem[] => {
    searched.set(file, Buffer.byteLength(content))
    return check.leaksIn(file, content, search, session.look.inspection?.settings ?? [], ways)
  }
  const lookAtAll = (bundle: Bundle, ways: Ways): Problem[] =>
    Object.values(bundle).flatMap((each) => {
      if (each.type === 'asset') return look(each.fileName, each.source, ways)
      const map = each.map ? look(`${each.fileName}.map`, JSON.stringify(each.map), ways) : []
      const found = look(each.fileName, each.code, ways).map((one) => withSources(one, each.modules))
      return [...found, ...map]
    })
  /** A problem with a chunk, told from which of its modules the value comes. */
  const withSources = (
    found: Problem,
    modules: Readonly<Record<string, { readonly code: string | null }>>,
  ): Problem => {
    const from = Object.entries(modules)
      .filter(([id, { code }]) => check.leaksIn(id, code ?? '', search, []).some(({ name }) => name === found.name))
      .map(([id]) => `from ${relative(session.look.root, id)}`)
    return from.length === 0 ? found : { ...found, trail: from }
  }
  let written = false
  /** What was made, until it has been searched. Asking the bundler for it once more would copy it once more. */
  let made: Bundle | null = null
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
        const { consumer, build } = this.environment.config
        if (consumer !== 'client') return
        // A build that watches has looked at the settings anew while it began.
        if (this.meta.watchMode && session.look.inspection !== null)
          search = check.searchFor(session.look.inspection, session.options.mayAppear ?? [])
        // What stands there as it is never gets onto the disk.
        const problems = lookAtAll(bundle, build.write ? 'plain' : 'all')
        if (problems.length > 0) throw pageError(problems, session)
        written = build.write
        made = build.write ? bundle : null
      },
    },
    writeBundle: {
      order: 'post',
      // Looking for a value in every way in which it can be written takes a while, in which the sizes of files are reported.
      handler({ dir }) {
        if (this.environment.config.consumer !== 'client' || made === null) return
        const problems = lookAtAll(made, 'all')
        made = null
        if (problems.length === 0) return
        written = false
        for (const { file } of problems) rmSync(resolve(dir!, file!), { force: true })
        throw pageError(problems, session)
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
