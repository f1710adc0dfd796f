import { findQueryKeys, hasPassword, isAddressWithKey } from '@mappa/core/credentials/credentials'
import { type Shape, toShape } from '@mappa/core/credentials/shapes'
import type { NameMeaning } from '@mappa/core/credentials/words'
import type { SourceLiteral } from '@mappa/source/source'
import { CALLS, CONNECTS, KEYED, LISTENS, LOGS_IN, SIGNS } from './callees.ts'
import { explainExclusion, isTestFile } from './exclusions.ts'
import { classifyMeaning } from './meaning.ts'
import { getResource, isConnecting, isIssuedKey, isSender, isServicePort, isShortHexKey } from './signals.ts'
import { isTranslation } from './translations.ts'

/** What a literal was taken for. */
export interface Classification {
  /** From 0 to 1. */
  readonly confidence: number
  /** The evidence, as text. */
  readonly why: string
  readonly secret: boolean
  readonly kind: 'string' | 'url' | 'port'
  /** The credential within the text, and what stands before it, where the rest of the text is none. */
  readonly part?: { readonly name: string; readonly value: string }
}

/** A name of a machine, with a dot in it (RFC 1123). */
const HOST_NAME = /^[a-z0-9-]+(\.[a-z0-9-]+)*\.[a-z]{2,}(:\d{2,5})?$/i

/**
 * Judges whether a literal should be a setting: by what it is given to, by what it looks like, and by what speaks
 * against it.
 *
 * @returns `null` where it should not
 */
export function classify(found: SourceLiteral): Classification | null {
  const { form, callee } = found
  const value = withoutScheme(found.value)
  // `setApiKey('...')`: where nothing else names the value, the function does.
  const names = found.names.length === 0 && callee !== null ? [callee] : found.names
  const evidence: Evidence = {
    ...found,
    value,
    names,
    meaning: classifyMeaning(names, found.variable),
    shape: toShape(value),
  }
  if (form === 'number') return classifyNumber(evidence)
  const plain = classifyPlain(evidence) ?? classifySignal(evidence)
  if (plain !== null) return plain
  const reason = explainExclusion(value, evidence.meaning === 'secret')
  if (reason === 'a placeholder') return null
  const own = reason === null ? (classifyShape(evidence) ?? classifyName(evidence) ?? classifyCall(evidence)) : null
  return own ?? classifyCompanion(evidence)
}

/** What stands beside a password, and says nothing by itself. */
function classifyCompanion({ beside, file, names, value }: Evidence): Classification | null {
  if (beside === undefined || isOwnName(value, names)) return null
  return toClassification(file, 0.65, `the ${beside} beside a password`, false, 'string')
}

/** A literal with what its names and its look say. */
interface Evidence extends SourceLiteral {
  readonly meaning: NameMeaning
  readonly shape: Shape
}

function classifyNumber({ value, meaning, callee, file }: Evidence): Classification | null {
  const port = Number(value)
  if (!Number.isInteger(port) || port < 80 || port > 65535) return null
  if (meaning === 'port') return toClassification(file, 0.9, 'a number used as a port', false, 'port')
  if (callee !== null && LISTENS.has(callee))
    return toClassification(file, 0.9, `a port passed to ${callee}`, false, 'port')
  return isServicePort(port, callee) ? toClassification(file, 0.7, `a port passed to ${callee}`, false, 'port') : null
}

/** What is plain whatever speaks against it. */
function classifyPlain(evidence: Evidence): Classification | null {
  const { value, form, shape, file } = evidence
  if (shape === 'private key') return toClassification(file, 0.99, 'a private key', true, 'string')
  // `http://127.0.0.1:${port}`: where the program itself is, by a port that is known elsewhere.
  if (shape === 'local address' && !(form === 'template part' && /:$/.test(value))) {
    const secret = isAddressWithKey(value)
    return toClassification(file, 0.85, 'an address on this machine or network', secret, classifyAddress(value))
  }
  const part = findQueryKeys(value)[evidence.keyIndex ?? 0]
  if (part === undefined) return classifyHost(evidence) ?? classifyPort(evidence) ?? classifyKey(evidence)
  const found = toClassification(file, 0.8, 'a key in a URL', true, 'string')
  return found === null ? null : { ...found, part }
}

/** What is one of a few well-known things: a resource of a cloud service, a sender, a key that says who gave it out. */
function classifySignal(evidence: Evidence): Classification | null {
  const { value, names, meaning, file } = evidence
  const resource = getResource(evidence)
  if (resource !== null) return toClassification(file, 0.65, `the name of a ${resource}`, false, 'string')
  if (isSender(evidence)) return toClassification(file, 0.65, `the sender of messages`, false, 'string')
  if (isIssuedKey(value)) return toClassification(file, 0.85, 'a key, by its form', true, 'string')
  const isKey = meaning === 'secret' || meaning === 'maybe secret'
  if (isKey && value.length === 8 && isShortHexKey(value))
    return toClassification(file, 0.6, `a string assigned to ${names.at(-1)}`, true, 'string')
  return null
}

function classifyHost({ value, names, meaning, callee, file }: Evidence): Classification | null {
  if (meaning === 'address' && names.slice(-2).some((name) => isHost(value, name)))
    return toClassification(file, 0.75, `a hostname assigned to ${names.at(-1)}`, false, 'string')
  if (callee !== null && (CONNECTS.has(callee) || isConnecting(callee)) && HOST_NAME.test(value))
    return toClassification(file, 0.7, `a hostname passed to ${callee}`, false, 'string')
  return null
}

function classifyPort({ value, meaning, callee, shape, file }: Evidence): Classification | null {
  const isListening = callee !== null && LISTENS.has(callee)
  if (/^:\d{2,5}$/.test(value) && (isListening || meaning === 'address'))
    return toClassification(file, 0.85, 'a number used as a port', false, 'string')
  if (meaning !== 'port') return null
  if (/^:\d{2,5}$/.test(value)) return toClassification(file, 0.85, 'a number used as a port', false, 'string')
  return shape === 'port number' ? toClassification(file, 0.85, 'a number used as a port', false, 'port') : null
}

function classifyKey({ value, callee, argument, file }: Evidence): Classification | null {
  // `sign(payload, '...')`: whatever stands second is the key.
  if (callee !== null && SIGNS.has(callee) && argument === 1 && isPassphrase(value))
    return toClassification(file, 0.75, `a key passed to ${callee}`, true, 'string')
  const isKey = /^[\w+/=.!$%&*#@-]{12,}$/.test(value) && /\d/.test(value)
  if (callee === null || !KEYED.has(callee) || !isKey) return null
  return toClassification(file, 0.85, `a key passed to ${callee}`, true, 'string')
}

/** One run of characters, which is no name of an algorithm or of an encoding. */
function isPassphrase(value: string): boolean {
  return (
    value.length >= 5 &&
    !/\s/.test(value) &&
    !/^(?:hmac|sha|md|hs|rs|es|ps|rsa|aes|hex|base64|utf|latin|ascii|ed)[-_\d]/i.test(value)
  )
}

const isHookName = (name: string) => /(?:web)?hook/i.test(name)

/** What its look gives away, whatever it is called. */
function classifyShape({ value, shape, file, names }: Evidence): Classification | null {
  if (shape === 'signed token') return toClassification(file, 0.95, 'a signed token', true, 'string')
  if (shape === 'address with a password')
    return toClassification(file, 0.95, 'a URL with a password', true, classifyAddress(value))
  if (shape === 'address' && isAddressWithKey(value, names.some(isHookName)))
    return toClassification(file, 0.75, 'a key in a URL', true, 'url')
  if (shape !== 'connection string') return null
  const secret = hasPassword(value) || isAddressWithKey(value)
  const kind = /^\w[\w+.-]*:\/\//.test(value) ? 'url' : 'string'
  return toClassification(file, 0.9, 'the URL of a service to connect to', secret, kind)
}

/** What the function says that it is passed to. */
function classifyCall({ value, callee, shape, file }: Evidence): Classification | null {
  if (callee === null || shape === 'address') return null
  if (LOGS_IN.has(callee) && value.length >= 8 && /\d|[^\w\s.@-]/.test(value) && !/[\s@]/.test(value)) {
    return toClassification(file, 0.7, `a string passed to ${callee}`, true, 'string')
  }
  return /^[a-z]{2,6}[-_]/.test(value) && isKeyLike(value)
    ? toClassification(file, 0.55, `a string that looks like a key, passed to ${callee}`, true, 'string')
    : null
}

/** A short beginning that says what it is for, and then digits and letters at random. */
function isKeyLike(value: string): boolean {
  const last = value.split(/[-_]/).at(-1)!
  return (
    /^[A-Za-z0-9]{8,}$/.test(last) &&
    (last.match(/\d/g)?.length ?? 0) >= 3 &&
    (last.match(/[A-Za-z]/g)?.length ?? 0) >= 2
  )
}

/** Classifies a value by its names, and by its form if they are not clear. */
function classifyName(evidence: Evidence): Classification | null {
  if (evidence.meaning === 'digest' || isOwnName(evidence.value, evidence.names)) return null
  return evidence.shape === 'address' ? classifyNamedAddress(evidence) : classifyNamedText(evidence)
}

function classifyNamedText(evidence: Evidence): Classification | null {
  const { value, names, meaning, shape, file } = evidence
  const why = `a string assigned to ${names.at(-1)}`
  const isRandomText = shape === 'random text'
  // What stands for people to read is about a password, and is none; a key that slipped in looks like one.
  if (!isRandomText && !isDense(value) && isTranslation(file, names)) return null
  if (meaning === 'secret' && (value.length >= 6 || /^\d{4,}$/.test(value))) {
    const byLook = /\d|\W/.test(value) ? 0.8 : 0.6
    return toClassification(file, isRandomText ? 0.97 : byLook, why, true, 'string')
  }
  if (meaning === 'maybe secret' && isRandomText) return toClassification(file, 0.95, why, true, 'string')
  if (meaning === 'maybe secret' && isDense(value)) return toClassification(file, 0.7, why, true, 'string')
  return isRandomText && !isPlainLabel(evidence) ? classifyRandom(evidence) : null
}

/** True for what a label is given to; `storeKey` is a key of the program's own, unless it is random. */
function isPlainLabel({ meaning, names }: Evidence): boolean {
  return meaning === 'label' && !/key$/i.test(names.at(-1) ?? '')
}

function classifyNamedAddress({
  value,
  form,
  names,
  meaning,
  callee,
  file,
  isCalled,
}: Evidence): Classification | null {
  if (form === 'template part' && /:$/.test(value)) return null
  if (meaning === 'address' || meaning === 'connection') {
    // A program that takes several in one text takes them apart itself.
    const several = /,\s*\w+:\/\//.test(value)
    const what = several ? 'URLs' : 'a URL'
    return toClassification(file, 0.85, `${what} assigned to ${names.at(-1)}`, false, several ? 'string' : 'url')
  }
  if (callee !== null && (CALLS.has(callee) || /client|connect|socket|request/i.test(callee)))
    return toClassification(file, 0.7, `a URL passed to ${callee}`, false, 'url')
  if (form === 'template part') return toClassification(file, 0.6, 'a URL that the code completes', false, 'url')
  return isCalled === true && meaning !== 'label'
    ? toClassification(file, 0.65, 'a URL that the code calls or completes', false, 'url')
    : null
}

function toClassification(
  file: string,
  confidence: number,
  why: string,
  secret: boolean,
  kind: Classification['kind'],
): Classification | null {
  // What stands in tests is made up, as a rule; a real private key or token there is still worth a look.
  const sure = isTestFile(file) ? confidence * 0.55 : confidence
  return sure < 0.5 ? null : { confidence: Math.round(sure * 100) / 100, why, secret, kind }
}

/** Random text without a telling name: long and dense enough to be no identifier. */
function classifyRandom({ value, file, names }: SourceLiteral): Classification | null {
  const uuid = /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/i.test(value)
  if (uuid || value.length < 18 || value.includes('/') || value.includes('.')) return null
  if (isNameOfWords(value)) return null
  // Names of programs, of words with a number in them now and then.
  if (/^(?:[a-z]{2,}\d*[a-z]*\d*_)+[a-z]{2,}\d*$/.test(value)) return null
  // Short names of programs have a digit or two as well.
  if (value.length < 24 && (value.match(/\d/g)?.length ?? 0) < 4) return null
  const hexadecimal = /^[0-9a-f]+$/i.test(value)
  // 40 and 64 hexadecimal digits are the lengths of digests, which stand in code more often than keys.
  if (hexadecimal && [32, 40, 64, 96, 128].includes(value.length) && names.length === 0) return null
  return toClassification(file, hexadecimal ? 0.6 : 0.7, 'long random text', true, 'string')
}

/** `FrameStoreV1Condition`: words in the way in which programs write names, and little else. */
function isNameOfWords(value: string): boolean {
  const words = value.match(/[A-Z]?[a-z]{3,}/g) ?? []
  return /^[A-Za-z\d]+$/.test(value) && words.join('').length >= 0.7 * value.length
}

/** A name given to itself: `SET_PASSWORD = 'SetPassword'`. */
function isOwnName(value: string, names: readonly string[]): boolean {
  const plain = (text: string) => text.replace(/[\W_]/g, '').toLowerCase()
  return /^[\w.:/-]+$/.test(value) && plain(names.at(-1) ?? '').includes(plain(value))
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

/** What names of machines are given to. */
export const HOSTS = /host|addr|server|broker|domain|origin|gateway|upstream|registry|mirror|proxy|endpoint|remote/i

/** A name of a machine, with a dot in it, given to something that says so. */
function isHost(value: string, name: string): boolean {
  return HOSTS.test(name) && HOST_NAME.test(value) && !/\.(html?|[cm]?[jt]sx?|json|css|md|ya?ml|png|svg)$/i.test(value)
}

function classifyAddress(value: string): Classification['kind'] {
  return /^\w+:\/\//.test(value) ? 'url' : 'string'
}

/** The value behind the scheme of a header, such as `Bearer` (RFC 9110, section 11). */
export function withoutScheme(value: string): string {
  return value.replace(/^(bearer|basic|token|key) +(?=\S+$)/i, '')
}
