import { reportConflict } from '@mappa/core/store/conflict'
import type { StoreEntry, StoreEvent, StoreHistory, StoreState } from '@mappa/core/store/store'
import { StoreError } from '@mappa/core/store/store-error'
import { isVariableName } from '@mappa/core/text/variable-name'
import type { HttpAnswer } from '../../http/send.ts'

/** The version of the protocol. */
export const PROTOCOL = 'mappa-store/1'

type Data = Readonly<Record<string, unknown>>

const wrong = (reason: string) => new StoreError('answer', reason)

/** What the status of an answer says is wrong; `null` where it says that all is well. */
export function toAnswerFailure(answer: HttpAnswer): StoreError | null {
  const { status } = answer
  if (status === 200) return null
  if (status === 401) return new StoreError('denied', 'the token is none that it knows')
  if (status === 403) return new StoreError('denied', 'the token does not allow it')
  if (status === 404) return wrong('it knows no such project or stage')
  if (status === 409) return reportConflict(findChangedNames(answer))
  if (status === 400 || status === 413 || status === 422)
    return new StoreError('refused', `it answers with the status ${status}`)
  if (status === 408 || status === 429 || status >= 500)
    return new StoreError('unreachable', `it answers with the status ${status}`)
  return wrong(`it has the status ${status}`)
}

function findChangedNames(answer: HttpAnswer): readonly string[] {
  const changed = parseDataOrNull(answer)?.changed
  return Array.isArray(changed) ? changed.filter(isVariableName) : []
}

/** What a service says that it holds for a stage. */
export function readState(answer: HttpAnswer, stage: string): StoreState {
  const data = parseData(answer)
  if (data.stage !== stage) throw wrong(`it is about another stage than ${stage}`)
  if (!Array.isArray(data.variables)) throw wrong('its "variables" are no list')
  const entries = new Map<string, StoreEntry>()
  const oddKeys: string[] = []
  for (const each of data.variables as readonly unknown[]) {
    const variable = (each ?? {}) as Data
    const { name } = variable
    if (typeof name !== 'string') throw wrong('one of its "variables" has no name')
    if (entries.has(name)) throw wrong(`it lists ${name} twice`)
    if (isVariableName(name)) entries.set(name, toEntry(name, variable))
    else oddKeys.push(name)
  }
  return { stage, revision: getText(data, 'revision'), entries, oddKeys, ...getDigestKey(data, entries) }
}

/** The key of the digests, where there are any. */
function getDigestKey({ digestKey }: Data, entries: ReadonlyMap<string, StoreEntry>): Pick<StoreState, 'digestKey'> {
  if ([...entries.values()].every(({ digest }) => digest === undefined)) return {}
  if (typeof digestKey === 'string' && digestKey.length >= SHORTEST_KEY) return { digestKey }
  throw wrong(`it has digests, and no "digestKey" of at least ${SHORTEST_KEY} characters`)
}

/** Shorter keys of digests are guessed too easily, in characters. */
const SHORTEST_KEY = 16

function toEntry(name: string, { value, digest, revision }: Data): StoreEntry {
  const own = { revision: typeof revision === 'string' ? revision : null }
  if (typeof digest === 'string' && /^[0-9a-f]{64}$/.test(digest)) {
    const text = typeof value === 'string' ? value : null
    return Object.defineProperty({ ...own, digest }, 'value', { get: () => text }) as unknown as StoreEntry
  }
  if (typeof value !== 'string') throw wrong(`it has neither a value nor a digest for ${name}`)
  return Object.defineProperty(own, 'value', { get: () => value }) as unknown as StoreEntry
}

/** The revision of a change. */
export function readRevision(answer: HttpAnswer): string {
  return getText(parseData(answer), 'revision')
}

/** What a service says of changes. */
export function readHistory(answer: HttpAnswer): StoreHistory {
  const { events, isCut = false } = parseData(answer)
  if (!Array.isArray(events)) throw wrong('its "events" are no list')
  return { events: events.map((each) => toEvent((each ?? {}) as Data)), isCut: isCut === true }
}

function toEvent(data: Data): StoreEvent {
  const { at, by, names } = data
  if (!Array.isArray(names)) throw wrong('the "names" of an event are no list')
  return {
    revision: getText(data, 'revision'),
    at: typeof at === 'string' ? at : null,
    by: typeof by === 'string' ? by : null,
    names: names.flatMap((each) => {
      const { name, what } = (each ?? {}) as Data
      const known = what === 'added' || what === 'changed' || what === 'removed' ? what : null
      return isVariableName(name) && known !== null ? [{ name, what: known }] : []
    }),
  }
}

function getText(data: Data, member: string): string {
  const text = data[member]
  if (typeof text !== 'string' || text === '') throw wrong(`it has no "${member}"`)
  return text
}

function parseData(answer: HttpAnswer): Data {
  const data = parseDataOrNull(answer)
  if (data !== null && data.protocol === PROTOCOL) return data
  if (data !== null) throw wrong(`it does not say "protocol": "${PROTOCOL}"`)
  const isPage = /html/i.test(answer.contentType) || /^\s*</.test(answer.text)
  throw wrong(isPage ? 'it is a page of HTML' : 'it is no JSON object, or a part of one')
}

function parseDataOrNull({ text }: HttpAnswer): Data | null {
  try {
    const data: unknown = JSON.parse(text)
    return typeof data === 'object' && data !== null && !Array.isArray(data) ? (data as Data) : null
  } catch {
    return null
  }
}
