import { basename, join, relative } from 'node:path'
import { pageProblem } from '@mappa/core/problems/catalogue/pages'
import type { Problem } from '@mappa/core/problems/problem'
import type { ProjectState } from '../session/project-state.ts'
import { type ImportSite, listImportSites } from './import-sites.ts'
import type { Forbidden } from './off-limits.ts'

/** What the border has to know of a graph of modules. */
export interface Graph {
  /** The modules that import a module, also dynamically. */
  readonly importersOf: (id: string) => readonly string[]
  /** Where a specifier leads from a file; `null` where nowhere. */
  readonly resolve: (specifier: string, importer: string) => Promise<string | null>
}

/** A file on the way to what is forbidden, and where it names the next one. */
interface Step {
  readonly file: string
  readonly site: ImportSite | null
}

/**
 * Makes a problem of a forbidden module in a page, with the way from the page to it, file by file, and the line to change.
 *
 * @param importer the module that imports it
 */
export async function explainViolation(
  forbidden: Forbidden,
  id: string,
  importer: string,
  graph: Graph,
  state: ProjectState,
): Promise<Problem> {
  const { root } = state
  const way = [...findTrace(importer, graph), id]
  const steps: Step[] = []
  for (let at = 0; at < way.length - 1; at++) {
    const file = toFile(way[at]!)
    steps.push({ file: relative(root, file), site: await getSite(file, way[at + 1]!, graph) })
  }
  const change = steps[findBoundary(steps, forbidden, state)]!
  const widest = Math.max(...steps.map((each) => getPlace(each).length))
  const importTrace = [
    ...steps.map((each) => {
      const line = `${getPlace(each).padEnd(widest)}  ${each.site?.text ?? ''}`.trimEnd()
      return each === change ? `${line}   <-- change this` : line
    }),
    forbidden.target,
  ]
  const { file, site } = change
  return pageProblem(
    forbidden.code,
    { target: forbidden.target },
    { file, line: site?.line ?? null, column: site?.column ?? null, importTrace },
  )
}

/**
 * The step at which a page leaves what it may know. A module that imports nothing but the server side is one for servers, so
 * the line to change is where page code imports that; without such a module it is the last one.
 */
function findBoundary(steps: readonly Step[], { code }: Forbidden, { root, file }: ProjectState): number {
  const last = steps.length - 1
  if (code === 'env-file-in-page' || last === 0) return last
  const definition = file === null ? '' : basename(file).replace(/\.\w+$/, '')
  const isServerSide = ({ specifier }: ImportSite) =>
    /^(?:mappa-settings(?:\/(?:node|preload))?|virtual:mappa\/server|node:.*)$/.test(specifier) ||
    (definition !== '' && basename(specifier).startsWith(definition))
  const sites = listImportSites(join(root, steps[last]!.file))
  return sites.length > 0 && sites.every(isServerSide) ? last - 1 : last
}

function getPlace({ file, site }: Step): string {
  return site === null ? file : `${file}:${site.line}`
}

/** The shortest way from an entry to a module, that module included. */
function findTrace(id: string, graph: Graph): string[] {
  const next = new Map<string, string | null>([[id, null]])
  let first = id
  for (const each of next.keys()) {
    first = each
    const importers = graph.importersOf(each)
    if (importers.length === 0) break
    for (const importer of importers) if (!next.has(importer)) next.set(importer, each)
  }
  const way: string[] = []
  for (let each: string | null = first; each !== null; each = next.get(each) ?? null) way.push(each)
  return way
}

function toFile(id: string): string {
  return id.replace(/^\0/, '').replace(/[?#].*$/, '')
}

/** Where a file names a module. */
async function getSite(file: string, target: string, graph: Graph): Promise<ImportSite | null> {
  const sites = listImportSites(file)
  for (const site of sites) {
    if (`\0${site.specifier}` === target) return site
    const resolved = await graph.resolve(site.specifier, file)
    if (resolved !== null && toFile(resolved) === toFile(target)) return site
  }
  return sites.find(({ text, specifier }) => /\.glob|\bimport\(/.test(text) && specifier.includes('*')) ?? null
}
