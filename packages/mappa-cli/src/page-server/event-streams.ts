import type { ServerResponse } from 'node:http'
import type { LiveProject } from './live-project.ts'

/** An open connection tells now and then that it is alive, in milliseconds, so that the page learns when the command has ended. */
const HEARTBEAT_MS = 15_000

/** Connections on which pages are told of changes: one line of JSON for each. */
export class EventStreams {
  readonly #open = new Set<ServerResponse>()
  readonly #stop: () => void
  readonly #heartbeat: NodeJS.Timeout
  #revision: number

  constructor(live: LiveProject) {
    this.#revision = live.state.revision
    this.#stop = live.onChange((revision) => {
      this.#revision = revision
      this.#tell()
    })
    this.#heartbeat = setInterval(() => this.#tell(), HEARTBEAT_MS)
    this.#heartbeat.unref()
  }

  /** Keeps a connection open. It is told the revision at once: something may have changed while the page was being read. */
  add(response: ServerResponse, headers: Readonly<Record<string, string>>): void {
    response.writeHead(200, { 'content-type': 'application/x-ndjson; charset=utf-8', ...headers })
    this.#open.add(response)
    response.on('close', () => this.#open.delete(response))
    response.write(this.#line())
  }

  close(): void {
    this.#stop()
    clearInterval(this.#heartbeat)
    for (const each of this.#open) each.end()
  }

  #tell(): void {
    for (const each of this.#open) each.write(this.#line())
  }

  #line(): string {
    return `${JSON.stringify({ revision: this.#revision })}\n`
  }
}
