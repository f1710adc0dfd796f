import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { createRequire } from 'node:module'
import type { TestContext } from 'node:test'
import type { Browser, Page } from 'playwright-core'
import { COMMAND, type Project } from './project.ts'

/** The page of `mappa view` in a window, and everything that was said on the way. */
export interface ViewPage {
  readonly page: Page
  /** Errors of the page, and what its rules forbid. */
  readonly errors: string[]
  /** The text of every answer. */
  readonly answers: string[]
  /** Every address that was asked for. */
  readonly addresses: string[]
}

/** A running `mappa view`. */
export interface RunningView {
  /** The link, which works once. */
  readonly link: string
  /** The address without what makes it a link. */
  readonly address: string
  /** Opens a link in a window of its own. */
  readonly open: (link?: string, options?: WindowOptions) => Promise<ViewPage>
  /** Asks the command to end, and gives what it ended with and printed. */
  readonly end: () => Promise<{ readonly status: number | null; readonly printed: string }>
}

export interface WindowOptions {
  readonly width?: number
  readonly height?: number
  readonly dark?: boolean
}

/** Starts `mappa view` in a project, until the test ends. */
export async function startView(
  context: TestContext,
  browser: Browser,
  { root }: Pick<Project, 'root'>,
  words: readonly string[] = [],
  environment: Record<string, string> = {},
): Promise<RunningView> {
  const { PATH } = process.env
  const child = spawn(process.execPath, [COMMAND, 'view', ...words], { cwd: root, env: { PATH, ...environment } })
  context.after(() => child.kill('SIGKILL'))
  let printed = ''
  const link = await new Promise<string>((resolve, reject) => {
    const read = (piece: Buffer) => {
      printed += piece.toString()
      const found = /http:\S+/.exec(printed)
      if (found !== null) resolve(found[0])
    }
    child.stdout.on('data', read)
    child.stderr.on('data', read)
    child.once('exit', () => reject(new Error(printed)))
  })
  return {
    link,
    address: link.replace(/#.*/, ''),
    open: (asked = link, options = {}) => openWindow(context, browser, asked, options),
    async end() {
      const ended = once(child, 'exit')
      child.kill('SIGINT')
      const [status] = (await ended) as [number | null]
      return { status, printed }
    },
  }
}

async function openWindow(
  context: TestContext,
  browser: Browser,
  link: string,
  { width = 1280, height = 800, dark = false }: WindowOptions,
): Promise<ViewPage> {
  const page = await browser.newPage({ viewport: { width, height }, colorScheme: dark ? 'dark' : 'light' })
  context.after(() => page.close())
  const opened: ViewPage = { page, errors: [], answers: [], addresses: [] }
  page.on('pageerror', (error) => opened.errors.push(`${error.name}: ${error.message}`))
  page.on('console', (message) => {
    if (message.type() === 'error' || message.type() === 'warning') opened.errors.push(message.text())
  })
  page.on('request', (request) => opened.addresses.push(request.url()))
  page.on('response', (response) => {
    // The stream of changes never ends.
    if (!response.url().endsWith('/api/events'))
      void response.text().then(
        (text) => opened.answers.push(text),
        () => {},
      )
  })
  await page.goto(link)
  return opened
}

/** Everything that a checker of accessibility objects to, one line for each. */
export async function accessibilityFaults(page: Page): Promise<string[]> {
  // Not as a script of the page, which its own rules would refuse.
  await page.evaluate(`{ ${AXE.source} }`)
  const found = await page.evaluate('axe.run(document, { resultTypes: ["violations"] })')
  const { violations } = found as { violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }
  return violations.flatMap(({ id, nodes }) =>
    nodes.map(({ html, failureSummary }) => `${id}: ${html} ${failureSummary}`),
  )
}

const AXE = createRequire(import.meta.url)('axe-core') as { readonly source: string }
