import { Masker } from '@mappa/search/mask/masker'
import { prepareSearch } from '../leaks/search.ts'
import type { ProjectState } from '../session/project-state.ts'
import type { Session } from '../session/session.ts'

type MaskText = (text: string) => string

const known = new WeakMap<ProjectState, MaskText>()

/** The same data with a mask in the place of each value that no page may have. */
export function maskValues<T>(data: T, session: Session): T {
  const { state } = session
  if (state.inspection === null) return data
  const mask = known.get(state) ?? makeMask(session)
  known.set(state, mask)
  return maskAll(data, mask) as T
}

function makeMask({ state, options }: Session): MaskText {
  const texts = prepareSearch(state.inspection!, options.allowInPage ?? []).needles.flatMap(({ name, patterns }) =>
    patterns.map(({ text }) => ({ text, mask: `(value of ${name})` })),
  )
  const masker = new Masker(texts)
  return (text) => {
    return Buffer.concat([masker.write(Buffer.from(text)), masker.end()]).toString()
  }
}

function maskAll(data: unknown, mask: MaskText): unknown {
  if (typeof data === 'string') return mask(data)
  if (Array.isArray(data)) return data.map((each) => maskAll(each, mask))
  if (typeof data !== 'object' || data === null || Object.getPrototypeOf(data) !== Object.prototype) return data
  return Object.fromEntries(Object.entries(data).map(([key, each]) => [key, maskAll(each, mask)]))
}
