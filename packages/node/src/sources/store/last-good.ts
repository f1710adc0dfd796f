import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import type { Problem } from '@mappa/core/problems/problem'
import type { StoreEntry, StoreState } from '@mappa/core/store/store'
import { fs, path } from '../../fs/builtin.ts'

const crypto = () => process.getBuiltinModule('node:crypto')

/** Where a program keeps the last good values of its store, in case that it can't be reached at the next start. */
export interface LastGoodOptions {
  /** The file, which only its owner can read. A relative path begins in the current directory. */
  readonly file: string
  /** What it is encrypted with (AES-256-GCM): at least 16 characters, which stand in no file beside it. */
  readonly key: string
}

/** What is kept of a state. */
export interface LastGood {
  readonly state: StoreState
  /** When the store held it, in milliseconds since 1970. */
  readonly at: number
}

/** Says what the bytes are, so that no other file of the same key is taken for one. */
const PURPOSE = Buffer.from('mappa last good values 1')

/**
 * Keeps the state of a store.
 *
 * @returns what kept it from that; `null` where nothing did
 */
export function keepLastGood({ file, key }: LastGoodOptions, described: string, state: StoreState): Problem | null {
  try {
    const { stage, revision, entries } = state
    const kept = [...entries].map(([name, { value, revision: own }]) => [name, value, own])
    const text = JSON.stringify({ store: described, stage, revision, at: Date.now(), entries: kept })
    const whole = path.resolve(file)
    if (isOther(whole))
      return storeProblem('store-last-good-unwritable', { store: described, reason: 'another file is there' }, { file })
    put(whole, encrypt(text, key))
    return null
  } catch (error) {
    const reason = (error as NodeJS.ErrnoException).code ?? 'it is not known why'
    return storeProblem('store-last-good-unwritable', { store: described, reason }, { file })
  }
}

/** True for a file that is none of kept values: it is not replaced. */
function isOther(file: string): boolean {
  const stats = fs.lstatSync(file, { throwIfNoEntry: false })
  if (stats === undefined) return false
  return !stats.isFile() || (stats.size > 0 && !/^\{"salt":"/.test(fs.readFileSync(file, 'utf8').slice(0, 20)))
}

/**
 * Puts a file in the place of another, for its owner alone. What env files are written by is not used here: a bundler would keep it in
 * every program that could have a store.
 */
function put(file: string, text: string): void {
  const draft = `${file}.${process.pid}.draft`
  fs.rmSync(draft, { force: true })
  try {
    fs.writeFileSync(draft, text, { mode: 0o600, flag: 'wx' })
    fs.renameSync(draft, file)
  } catch (error) {
    fs.rmSync(draft, { force: true })
    throw error
  }
}

/**
 * Takes up the state of a store that was kept.
 *
 * @returns why it can't be used, where there is one; `null` where there is none for this store and stage
 */
export function openLastGood(
  { file, key }: LastGoodOptions,
  described: string,
  stage: string,
): LastGood | Problem | null {
  const unusable = (reason: string) => storeProblem('store-last-good-unusable', { store: described, reason }, { file })
  const whole = path.resolve(file)
  let text: string
  try {
    const stats = fs.lstatSync(whole, { throwIfNoEntry: false })
    if (stats === undefined) return null
    if (!stats.isFile()) return unusable('it is no file of its own')
    if (process.platform !== 'win32' && (stats.mode & 0o077) !== 0) return unusable('others than its owner can read it')
    text = fs.readFileSync(whole, 'utf8')
  } catch (error) {
    return unusable((error as NodeJS.ErrnoException).code ?? 'it is not known why')
  }
  const decrypted = decrypt(text, key)
  if (decrypted === null) return unusable('the key is another one, or the file was changed')
  const kept = JSON.parse(decrypted) as { store: string; stage: string; revision: string; at: number; entries: Kept[] }
  if (kept.store !== described || kept.stage !== stage) return null
  const entries = new Map(
    kept.entries.map(([name, value, revision]): [string, StoreEntry] => [name, { value, revision }]),
  )
  return { state: { stage, revision: kept.revision, entries }, at: kept.at }
}

type Kept = readonly [name: string, value: string | null, revision: string | null]

function encrypt(text: string, key: string): string {
  const { createCipheriv, randomBytes } = crypto()
  const [salt, iv] = [randomBytes(16), randomBytes(12)]
  const cipher = createCipheriv('aes-256-gcm', deriveKey(key, salt), iv).setAAD(PURPOSE)
  const data = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  const parts = { salt, iv, tag: cipher.getAuthTag(), data }
  return JSON.stringify(
    Object.fromEntries(Object.entries(parts).map(([name, part]) => [name, part.toString('base64')])),
  )
}

/** `null` where the key does not fit, or the text is none of this kind. */
function decrypt(text: string, key: string): string | null {
  try {
    const parts = JSON.parse(text) as Record<'salt' | 'iv' | 'tag' | 'data', string>
    const [salt, iv, tag, data] = (['salt', 'iv', 'tag', 'data'] as const).map((each) =>
      Buffer.from(parts[each], 'base64'),
    )
    const decipher = crypto().createDecipheriv('aes-256-gcm', deriveKey(key, salt!), iv!, { authTagLength: 16 })
    decipher.setAAD(PURPOSE).setAuthTag(tag!)
    return Buffer.concat([decipher.update(data!), decipher.final()]).toString('utf8')
  } catch {
    return null
  }
}

/** The key that a cipher takes (scrypt, RFC 7914). */
function deriveKey(key: string, salt: Buffer): Buffer {
  return crypto().scryptSync(key, salt, 32)
}

/** Units of time, each with how many seconds it has, and up to how many seconds it is used. */
const UNITS = [
  ['s', 1, 120],
  ['minutes', 60, 7200],
  ['hours', 3600, 172_800],
  ['days', 86_400, Number.POSITIVE_INFINITY],
] as const

/** How old something is, in words. */
export function measureAge(at: number): string {
  const seconds = Math.max(0, (Date.now() - at) / 1000)
  const [unit, length] = UNITS.find(([, , most]) => seconds < most)!
  return `${Math.round(seconds / length)} ${unit}`
}
