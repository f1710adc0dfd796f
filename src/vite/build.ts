import { relative, resolve } from 'node:path'
import type { Plugin } from 'vite'
import { pageProblem } from '../core/problems/of-pages.ts'
import type { Problem } from '../core/problems/problem.ts'
import { isSettingsError } from '../core/problems/settings-error.ts'
import { nearestOf } from '../core/text/near.ts'
import { forbiddenInPages } from './border.ts'
import type { Search } from './leak-check.ts'
import { BROWSER } from './modules.ts'
import { addProblems, pageError, type Session } from './session.ts'

/** Holds the border in a build: fails where page code reaches the server side, or reads a public setting that is none. */
export function buildBorder(session: Session): Plugin {
  return {
    name: 'mappa:border',
    apply: 'build',
    buildApp: {
      order: 'pre',
      // The bundler wraps an error into one of its own, with a stack of its own. The report alone is what somebody should read.
      async handler(builder) {
        const { build } = builder
        builder.build = (environment) =>
          build(environment).catch((error: { errors?: unknown[] }) => {
            throw error.errors?.find(isSettingsError) ?? error
          })
      },
    },
    onLog(_level, log) {
      const missing = log.code === 'IMPORT_IS_UNDEFINED' ? unknownSetting(log.message, session) : null
      if (missing === null) return
      const file = log.id?.slice(session.look.root.length + 1) ?? null
      const place = { file, line: log.loc?.line ?? null, column: log.loc === undefined ? null : log.loc.column + 1 }
      addProblems(session.crossings, [{ ...missing, ...place }])
      return false
    },
    async buildEnd(error) {
      if (error !== undefined || this.environment.config.consumer !== 'client') return
      const graph = {
        importersOf: (id: string) => {
          const module = this.getModuleInfo(id)
          return module === null ? [] : [...module.importers, ...module.dynamicImporters]
        },
        resolve: async (specifier: string, importer: string) => (await this.resolve(specifier, importer))?.id ?? null,
      }
      for (const id of this.getModuleIds()) {
        const forbidden = forbiddenInPages(id, session.look)
        if (forbidden === null) continue
        for (const importer of graph.importersOf(id)) {
          // What the server side itself imports is told of by whoever imports that.
          if (forbiddenInPages(importer, session.look) !== null) continue
          const { crossing } = await import('./crossing.ts')
          addProblems(session.crossings, [await crossing(forbidden, id, importer, graph, session.look)])
        }
      }
      if (session.crossings.length > 0) throw pageError(session.crossings.splice(0), session)
    },
    // The bundler tells of names that do not exist when it has written everything.
    closeBundle() {
      if (session.crossings.length > 0) throw pageError(session.crossings.splice(0), session)
    },
  }
}

/** A problem for a name that a group of public settings lacks, from what the bundler says of it. */
function unknownSetting(message: string, { look }: Session): Problem | null {
  const match = new RegExp(`Import \`(\\w+)\`.*'\\0?${BROWSER}/settings\\.?([\\w.]*)'`, 's').exec(
    message.replace('\\0', '\0'),
  )
  if (match === null) return null
  const [, name, group] = match
  const asked = group === '' ? name! : `${group}.${name}`
  const paths = look.definition?.settings.filter((each) => each.public).map((each) => each.path) ?? []
  return pageProblem('public-unknown', { asked, near: nearestOf(paths)(asked) }, { setting: asked })
}

/** Searches everything that a build makes for values that no page may hold, before it is written and once more behind it. */
export function leakCheck(session: Session): Plugin {
  let search: Search = { needles: [], notSearched: [] }
  /** The length of each file that was searched, by its name. */
  const searched = new Map<string, number>()
  let check: typeof import('./leak-check.ts')
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
      check = await import('./leak-check.ts')
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
          .servedFiles(resolve(config!.root, config!.build.outDir))
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
