import type { ViteDevServer } from 'vite'
import type { Session } from '../session/session.ts'

type MaskIn = typeof import('./mask-texts.ts').maskIn

/** Masks values in what a server sends to open pages besides answers, such as errors with a part of their source. */
export function guardSockets(server: ViteDevServer, session: Session): void {
  let maskIn: MaskIn | null = null
  // Messages wait for it in their order.
  let loading: Promise<void> | null = null
  const load = async () => {
    ;({ maskIn } = await import('./mask-texts.ts'))
  }
  const channels = new Set([server.ws, ...Object.values(server.environments).map(({ hot }) => hot)])
  for (const channel of channels as Set<{ send: (...words: unknown[]) => void }>) {
    const send = channel.send.bind(channel)
    channel.send = (...words) => {
      const sendMasked = () => send(...words.map((each) => maskIn!(each, session)))
      if (maskIn !== null) sendMasked()
      else loading = (loading ?? load()).then(sendMasked)
    }
  }
}

/** The same for errors that are logged. */
export function guardLog(session: Session): void {
  const { logger } = session.config!
  let maskIn: MaskIn | null = null
  const { error } = logger
  logger.error = (message, options) => {
    const log = () => {
      maskError(options?.error, (text) => maskIn!(text, session))
      error.call(logger, maskIn!(message, session), options)
    }
    if (maskIn !== null) return log()
    void import('./mask-texts.ts').then((loaded) => {
      maskIn = loaded.maskIn
      log()
    })
  }
}

/** Masks what an error says. It stays the same one, since who logs it notes that. */
function maskError(error: unknown, mask: (text: string) => string): void {
  if (typeof error !== 'object' || error === null) return
  for (const part of ['message', 'stack', 'frame'] as const) {
    const text = (error as { [part]?: unknown })[part]
    if (typeof text === 'string')
      Object.defineProperty(error, part, { value: mask(text), writable: true, configurable: true })
  }
}
