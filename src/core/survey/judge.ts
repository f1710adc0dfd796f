import { isTestFile, reasonAgainst } from './against.ts'
import { shapeOf } from './shapes.ts'
import type { SourceLiteral } from './source.ts'
import { meaningOf } from './words.ts'

/** What a literal was taken for. */
export interface Judgement {
  /** From 0 to 1. */
  readonly sureness: number
  /** What spoke for it, in words. */
  readonly why: string
  readonly secret: boolean
  readonly kind: 'string' | 'url' | 'port'
}

/** Functions that take a port. */
const LISTENS = new Set(['listen', 'createServer', 'serve', 'bind'])

/**
 * Judges whether a literal should be a setting: by what it is given to, by what it looks like, and by what speaks
 * against it.
 *
 * @returns `null` where it should not
 */
export function judge(literal: SourceLiteral): Judgement | null {
  const { value, form, names, callee, file } = literal
  const meaning = meaningOf(names)
  if (form === 'number') {
    const port = Number(value)
    if (!Number.isInteger(port) || port < 80 || port > 65535) return null
    if (meaning === 'port') return judged(file, 0.9, 'a number given to a port', false, 'port')
    return callee !== null && LISTENS.has(callee)
      ? judged(file, 0.9, `a port passed to ${callee}`, false, 'port')
      : null
  }
  const shape = shapeOf(value)
  if (shape === 'private key') return judged(file, 0.99, 'a private key', true, 'string')
  if (reasonAgainst(value, meaning === 'secret') !== null) return null
  if (shape === 'signed token') return judged(file, 0.95, 'a signed token', true, 'string')
  if (shape === 'address with a password') return judged(file, 0.95, 'an address with a password in it', true, 'url')
  if (shape === 'connection string') {
    const secret = /password|pwd|:\/\/[^/]*@/i.test(value)
    return judged(
      file,
      0.9,
      'an address of a service to connect to',
      secret,
      /^\w[\w+.-]*:\/\//.test(value) ? 'url' : 'string',
    )
  }
  if (meaning === 'digest') return null
  if (meaning === 'secret' && value.length >= 6 && shape !== 'address' && shape !== 'local address') {
    return judged(
      file,
      shape === 'random text' ? 0.97 : /\d|\W/.test(value) ? 0.8 : 0.6,
      nameReason(names),
      true,
      'string',
    )
  }
  if (shape === 'random text' && meaning === 'maybe secret')
    return judged(file, 0.95, nameReason(names), true, 'string')
  if (meaning === 'label') return null
  if (shape === 'random text') return randomAlone(literal)
  if (shape === 'local address')
    return judged(file, 0.85, 'an address of this machine or network', false, addressKind(value))
  if (shape === 'address' && (meaning === 'address' || meaning === 'connection')) {
    return judged(file, 0.85, `an address given to ${names.at(-1)}`, false, 'url')
  }
  if (
    shape === 'address' &&
    callee !== null &&
    /^(fetch|connect|request|get|post|put|patch|delete|axios|WebSocket|EventSource)$/.test(callee)
  ) {
    return judged(file, 0.7, `an address passed to ${callee}`, false, 'url')
  }
  if (meaning === 'port' && shape === 'port number')
    return judged(file, 0.85, 'a number given to a port', false, 'port')
  if (
    meaning === 'address' &&
    /^[a-z0-9-]+(\.[a-z0-9-]+)+(:\d+)?$/i.test(value) &&
    /\.[a-z]{2,}(:\d+)?$/i.test(value) &&
    /host|addr|server|broker|domain|origin/i.test(names.at(-1)!)
  ) {
    return judged(file, 0.75, `a host given to ${names.at(-1)}`, false, 'string')
  }
  return null
}

function judged(
  file: string,
  sureness: number,
  why: string,
  secret: boolean,
  kind: Judgement['kind'],
): Judgement | null {
  // What stands in tests is made up, as a rule; a real private key or token there is still worth a look.
  const sure = isTestFile(file) ? sureness * 0.55 : sureness
  return sure < 0.5 ? null : { sureness: Math.round(sure * 100) / 100, why, secret, kind }
}

function nameReason(names: readonly string[]): string {
  return `a text given to ${names.at(-1)}`
}

/** Random text without a telling name: long and dense enough to be no identifier. */
function randomAlone({ value, file, names }: SourceLiteral): Judgement | null {
  const uuid = /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/i.test(value)
  if (uuid || value.length < 24 || value.includes('/') || value.includes('.')) return null
  const hexadecimal = /^[0-9a-f]+$/i.test(value)
  // 40 and 64 hexadecimal digits are the lengths of digests, which stand in code more often than keys.
  if (hexadecimal && [32, 40, 64, 96, 128].includes(value.length) && names.length === 0) return null
  return judged(file, hexadecimal ? 0.6 : 0.7, 'long random text', true, 'string')
}

function addressKind(value: string): Judgement['kind'] {
  return /^\w+:\/\//.test(value) ? 'url' : 'string'
}
