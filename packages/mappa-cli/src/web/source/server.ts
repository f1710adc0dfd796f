import type { Refusal } from '../../views/page.ts'
import type { ProblemView } from '../../views/problem.ts'
import type { PageSource } from './page-source.ts'

/** What the server refused, with what is wrong. */
export class Refused extends Error {
  readonly problems: readonly ProblemView[]

  constructor(message: string, problems: readonly ProblemView[]) {
    super(message)
    this.problems = problems
  }
}

/** After a connection was lost, it is tried again, in milliseconds. */
const RETRY_MS = 1500

/**
 * The command that was started, by its server.
 *
 * @param key what the server knows this window by
 */
export function serverSource(key: string): PageSource {
  const headers = { 'content-type': 'application/json', authorization: `Bearer ${key}` }
  const ask = async <Result>(path: string, body: object = {}): Promise<Result> => {
    const response = await fetch(path, { method: 'POST', headers, body: JSON.stringify(body) })
    const answer = (await response.json()) as Result & Partial<Refusal> & { error?: string }
    if (response.ok) return answer
    const { problems = [] } = answer
    throw new Refused(problems[0]?.message ?? answer.error ?? 'The server refused this.', problems)
  }
  return {
    state: () => ask('/api/state'),
    story: (setting) => ask('/api/story', { setting }),
    watch: (changed, lost) => watch(headers, changed, lost),
    marksChanges: true,
    editing: {
      preview: (edit) => ask('/api/edit/preview', edit),
      save: (edit, version) => ask('/api/edit/save', { ...edit, version }),
    },
    code: {
      survey: () => ask('/api/survey'),
      planMove: (finding, stage) => ask('/api/move/plan', { finding, stage }),
      applyMove: async (id) => (await ask<{ files: readonly string[] }>('/api/move/apply', { id })).files,
    },
    open: async (file, line) => (await ask<{ opened: boolean }>('/api/open', { file, line })).opened,
    newLink: async () => (await ask<{ link: string }>('/api/link')).link,
  }
}

/** Reads the stream of changes, one line of JSON for each, and connects again when it ends. */
function watch(headers: Record<string, string>, changed: (revision: number) => void, lost: (isLost: boolean) => void) {
  const end = new AbortController()
  const read = async (): Promise<void> => {
    const response = await fetch('/api/events', { method: 'POST', headers, signal: end.signal })
    if (!response.ok || response.body === null) throw new Error('no stream')
    lost(false)
    let rest = ''
    for await (const piece of listTexts(response.body)) {
      const lines = (rest + piece).split('\n')
      rest = lines.pop() ?? ''
      for (const line of lines) changed((JSON.parse(line) as { revision: number }).revision)
    }
  }
  const keepReading = async (): Promise<void> => {
    while (!end.signal.aborted) {
      await read().catch(() => {})
      if (end.signal.aborted) return
      lost(true)
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
    }
  }
  void keepReading()
  return () => end.abort()
}

/** The pieces of a stream as texts. */
async function* listTexts(stream: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = stream.getReader()
  const decoder = new TextDecoder()
  for (let next = await reader.read(); !next.done; next = await reader.read())
    yield decoder.decode(next.value, { stream: true })
}
