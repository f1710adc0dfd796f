import type { ViteDevServer } from 'vite'
import type { Session } from '../session/session.ts'

type MaskValues = typeof import('./mask-texts.ts').maskValues

/** Masks values in what a server sends to open pages besides answers, such as errors with a part of their source. */
export function guardSockets(server: ViteDevServer, session: Session): void {
  let maskValues: MaskValues | null = null
  // Messages wait for it in their order.
  let loading: Promise<void> | null = null
  const load = async () => {
    ;({ maskValues } = await import('./mask-texts.ts'))
  }
  const channels = new Set([server.ws, ...Object.values(server.environments).map(({ hot }) => hot)])
  for (const channel of channels as Set<{ send: (...words: unknown[]) => void }>) {
    const send = channel.send.bind(channel)
    channel.send = (...words) => {
      const sendMasked = () => send(...words.map((each) => maskValues!(each, session)))
      if (maskValues !== null) sendMasked()
      else loading = (loading ?? load()).then(sendMasked)
    }
  }
}

/** The same for errors that are logged. */
export function guardLog(session: Session): void {
  const { logger } = session.config!
  let maskValues: MaskValues | null = null
  const { error } = logger
  logger.error = (message, options) => {
    const writeLog = () => {
      maskError(options?.error, (text) => maskValues!(text, session))
      error.call(logger, maskValues!(message, session), options)
    }
    if (maskValues !== null) return writeLog()
    void import('./mask-texts.ts').then((loaded) => {
      maskValues = loaded.maskValues
      writeLog()
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
