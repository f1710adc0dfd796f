import type { IncomingMessage, ServerResponse } from 'node:http'
import type { Plugin } from 'vite'
import { payloadOf, withPayload } from '../core/page/payload.ts'
import { lookAt } from './project.ts'
import { answerProblems, isPageRequest } from './requests.ts'
import type { Session } from './session.ts'

/** Fills the pages of a build while Vite serves them, with the values that hold at each request. */
export function previewing(session: Session): Plugin {
  return {
    name: 'mappa:preview',
    configurePreviewServer({ middlewares, config }) {
      middlewares.use(async (request, response, next) => {
        if (!isPageRequest(request)) return next()
        const look = await lookAt(config.root, config.mode, session.options)
        if (!look.usable) return answerProblems(response, look.report)
        fillAnswer(request, response, payloadOf(look.inspection?.settings ?? []))
        next()
      })
    },
  }
}

/** Holds back a page that is on its way out, and puts the payload into it. */
function fillAnswer(request: IncomingMessage, response: ServerResponse, payload: string): void {
  // What is packed or not sent at all can't be filled.
  for (const header of ['accept-encoding', 'if-none-match', 'if-modified-since', 'range']) delete request.headers[header]
  const pieces: Buffer[] = []
  const { writeHead, end } = response
  let status = 200
  let headers: Record<string, unknown> = {}
  response.writeHead = ((code: number, ...rest: unknown[]) => {
    status = code
    headers = { ...(rest.at(-1) as object | undefined) }
    return response
  }) as never
  response.write = ((piece: Uint8Array | string) => pieces.push(Buffer.from(piece as string)) > 0) as never
  response.end = ((piece?: unknown) => {
    if (typeof piece === 'string' || piece instanceof Uint8Array) pieces.push(Buffer.from(piece as string))
    let body = Buffer.concat(pieces)
    const type = Object.entries(headers).find(([name]) => name.toLowerCase() === 'content-type')?.[1]
    if (String(type ?? response.getHeader('content-type')).startsWith('text/html')) {
      body = Buffer.from(withPayload(body.toString(), payload))
      for (const name of Object.keys(headers)) if (/^(content-length|etag)$/i.test(name)) delete headers[name]
      response.removeHeader('content-length')
      response.removeHeader('etag')
    }
    writeHead.call(response, status === 200 ? response.statusCode : status, headers as never)
    return end.call(response, body as never, 'utf8' as never)
  }) as never
}
