import { isTestFile, reasonAgainst } from './against.ts'
import { type Shape, shapeOf } from './shapes.ts'
import type { SourceLiteral } from './source.ts'
import { meaningOf, type NameMeaning } from './words.ts'

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

/** Functions that take an address and talk to it. */
const CALLS = new Set([
  'fetch',
  'connect',
  'request',
  'get',
  'post',
  'put',
  'patch',
  'delete',
  'axios',
  'WebSocket',
  'EventSource',
])

/** Functions of cryptography that take a key. */
const KEYED = new Set([
  'createHmac',
  'createCipheriv',
  'createDecipheriv',
  'createSecretKey',
  'sign',
  'verify',
  'pbkdf2',
  'pbkdf2Sync',
  'scrypt',
  'scryptSync',
  'importKey',
])

/**
 * Judges whether a literal should be a setting: by what it is given to, by what it looks like, and by what speaks
 * against it.
 *
 * @returns `null` where it should not
 */
export function judge(literal: SourceLiteral): Judgement | null {
  const { value, form, callee } = literal
  // `setApiKey('...')`: where nothing else names the value, the function does.
  const names = literal.names.length === 0 && callee !== null ? [callee] : literal.names
  const clues: Clues = { ...literal, names, meaning: meaningOf(names), shape: shapeOf(value) }
  if (form === 'number') return judgeNumber(clues)
  const plain = judgePlain(clues)
  if (plain !== null) return plain
  if (reasonAgainst(value, clues.meaning === 'secret') !== null) return null
  return judgeShape(clues) ?? judgeName(clues)
}

/** A literal with what its names and its look say. */
interface Clues extends SourceLiteral {
  readonly meaning: NameMeaning
  readonly shape: Shape
}

function judgeNumber({ value, meaning, callee, file }: Clues): Judgement | null {
  const port = Number(value)
  if (!Number.isInteger(port) || port < 80 || port > 65535) return null
  if (meaning === 'port') return judged(file, 0.9, 'a number given to a port', false, 'port')
  return callee !== null && LISTENS.has(callee) ? judged(file, 0.9, `a port passed to ${callee}`, false, 'port') : null
}

/** What is plain whatever speaks against it. */
function judgePlain({ value, names, meaning, shape, callee, file }: Clues): Judgement | null {
  if (shape === 'private key') return judged(file, 0.99, 'a private key', true, 'string')
  if (shape === 'local address') {
    return judged(file, 0.85, 'an address of this machine or network', false, addressKind(value))
  }
  if (/[?&]\w*(?:key|token|secret|appid|auth|sig)\w*=(?!\$)[\w.-]{12,}/i.test(value)) {
    return judged(file, 0.8, 'a key in an address', true, /^https?:/.test(value) ? 'url' : 'string')
  }
  if (meaning === 'address' && isHost(value, names.at(-1)!)) {
    return judged(file, 0.75, `a host given to ${names.at(-1)}`, false, 'string')
  }
  if (meaning === 'port' && shape === 'port number') {
    return judged(file, 0.85, 'a number given to a port', false, 'port')
  }
  if (callee !== null && KEYED.has(callee) && /^[\w+/=.!$%&*#@-]{12,}$/.test(value) && /\d/.test(value)) {
    return judged(file, 0.85, `a key passed to ${callee}`, true, 'string')
  }
  return null
}

/** What its look gives away, whatever it is called. */
function judgeShape({ value, shape, file }: Clues): Judgement | null {
  if (shape === 'signed token') return judged(file, 0.95, 'a signed token', true, 'string')
  if (shape === 'address with a password') return judged(file, 0.95, 'an address with a password in it', true, 'url')
  if (shape !== 'connection string') return null
  const secret = /password|pwd|:\/\/[^/]*@/i.test(value)
  const kind = /^\w[\w+.-]*:\/\//.test(value) ? 'url' : 'string'
  return judged(file, 0.9, 'an address of a service to connect to', secret, kind)
}

/** What its names say, with its look for a witness. */
function judgeName(clues: Clues): Judgement | null {
  const { value, names, meaning, shape, callee, file } = clues
  if (meaning === 'digest') return null
  const why = `a text given to ${names.at(-1)}`
  if (shape !== 'address') {
    if (meaning === 'secret' && value.length >= 6) {
      return judged(file, shape === 'random text' ? 0.97 : /\d|\W/.test(value) ? 0.8 : 0.6, why, true, 'string')
    }
    if (meaning === 'maybe secret' && shape === 'random text') return judged(file, 0.95, why, true, 'string')
    if (meaning === 'maybe secret' && isDense(value)) return judged(file, 0.7, why, true, 'string')
    return shape === 'random text' && meaning !== 'label' ? randomAlone(clues) : null
  }
  if (meaning === 'address' || meaning === 'connection') {
    return judged(file, 0.85, `an address given to ${names.at(-1)}`, false, 'url')
  }
  return callee !== null && CALLS.has(callee) ? judged(file, 0.7, `an address passed to ${callee}`, false, 'url') : null
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

/** Random text without a telling name: long and dense enough to be no identifier. */
function randomAlone({ value, file, names }: SourceLiteral): Judgement | null {
  const uuid = /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/i.test(value)
  if (uuid || value.length < 18 || value.includes('/') || value.includes('.')) return null
  // Short names of programs have a digit or two as well.
  if (value.length < 24 && (value.match(/\d/g)?.length ?? 0) < 4) return null
  const hexadecimal = /^[0-9a-f]+$/i.test(value)
  // 40 and 64 hexadecimal digits are the lengths of digests, which stand in code more often than keys.
  if (hexadecimal && [32, 40, 64, 96, 128].includes(value.length) && names.length === 0) return null
  return judged(file, hexadecimal ? 0.6 : 0.7, 'long random text', true, 'string')
}

/** One run of characters, letters and digits mixed, too long for a word with a number. */
function isDense(value: string): boolean {
  return (
    value.length >= 10 &&
    !/[\s/]/.test(value) &&
    (value.match(/\d/g)?.length ?? 0) >= 2 &&
    /[A-Za-z]/.test(value) &&
    !/^v?\d+\.\d/.test(value)
  )
}

/** A name of a machine, with a dot in it, given to something that says so. */
function isHost(value: string, name: string): boolean {
  return (
    /host|addr|server|broker|domain|origin|gateway|upstream/i.test(name) &&
    /^[a-z0-9-]+(\.[a-z0-9-]+)*\.[a-z]{2,}(:\d{2,5})?$/i.test(value) &&
    !/\.(html?|[cm]?[jt]sx?|json|css|md|ya?ml|png|svg)$/i.test(value)
  )
}

function addressKind(value: string): Judgement['kind'] {
  return /^\w+:\/\//.test(value) ? 'url' : 'string'
}
