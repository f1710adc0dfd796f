import assert from 'node:assert/strict'
import { join } from 'node:path'
import { HARMLESS_PROJECTS } from '../support/border/harmless/all.ts'
import type { HarmlessProject } from '../support/border/harmless/project.ts'
import { COMPAT, importCompat, linkPackages } from '../support/compat.ts'
import { configOf, filesIn, makePage } from '../support/page-project.ts'
import { listener, raw, serve } from '../support/serving.ts'
import { type LongRun, withCleanup } from './long-run.ts'

type Vite = typeof import('vite')
type Context = Parameters<typeof makePage>[0]

const MAP = /maps\.fernhollow\.example\/tonight/

async function tryProject(context: Context, project: HarmlessProject, vite: Vite): Promise<void> {
  const page = makePage(context, project.files)
  linkPackages(page.root, project.packages ?? [])
  const configure = async () => {
    const own = project.config ?? {}
    return { ...own, plugins: [await project.plugins?.()] }
  }
  const directory = join(page.root, project.config?.root ?? '', 'dist')

  const { said, logger } = listener()
  await vite.build({ ...configOf(page.root, await configure()), customLogger: logger, logLevel: 'warn' })
  const built = filesIn(directory)
  assert.match(Object.values(built).join('\n'), MAP, 'a public value')
  assert.match(said.join('\n'), /no value of a private setting found/)

  const server = { fs: { allow: [page.root, COMPAT] } }
  const served = await serve(context, page.root, {
    vite,
    config: { ...(await configure()), server, optimizeDeps: { noDiscovery: false } },
    urls: project.urls ?? [],
  })
  assert.equal(served.page.status, 200, served.log)
  assert.doesNotMatch(served.log, /value-in-page|refused/)
  const refused = [...served.statuses].filter(([, status]) => status === 403 || status >= 500)
  assert.deepEqual(refused, [], served.log)

  const preview = await vite.preview({ ...configOf(page.root, await configure()), preview: { port: 0 } })
  context.after(() => preview.close())
  const { port } = preview.httpServer.address() as { port: number }
  const base = project.config?.base ?? '/'
  for (const file of Object.keys(built)) {
    const { status } = await raw(port, `${base}${encodeURI(file)}`, { accept: '*/*' })
    assert.equal(status, 200, file)
  }
}

/** Projects as people have them: none is refused. */
export const harmless: LongRun = {
  name: 'harmless',
  promise: 'a project with nothing private in its pages is built, served and previewed',
  short: 12,
  long: HARMLESS_PROJECTS.length,
  async run(count) {
    const newest = await importCompat<Vite>('vite')
    const others = await Promise.all(['vite-7', 'vite-6'].map((name) => importCompat<Vite>(name)))
    for (let done = 0; done < count; done++) {
      const project = HARMLESS_PROJECTS[done % HARMLESS_PROJECTS.length]!
      // Plugins of frameworks are made for the newest version.
      const vite = project.plugins === undefined ? [newest, ...others][done % 3]! : newest
      await withCleanup((context) => tryProject(context, project, vite)).catch((error: Error) => {
        throw new Error(`${project.name}, Vite ${vite.version}: ${error.message}`, { cause: error })
      })
    }
  },
}
