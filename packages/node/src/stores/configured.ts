import { storeProblem } from '@mappa/core/problems/catalogue/stores'
import { checkOptionNames } from '@mappa/core/problems/option-names'
import { SettingsError } from '@mappa/core/problems/settings-error'
import type { Store } from '@mappa/core/store/store'
import { fs, path } from '../fs/builtin.ts'
import type { TlsOptions } from '../http/send.ts'
import { findRoot, getCurrentDirectory } from '../project/root.ts'
import { etcdStore } from './etcd/etcd-store.ts'
import { httpStore } from './http/http-store.ts'

const { pathToFileURL } = process.getBuiltinModule('node:url')

/** The files that say which store a project has, in the order in which they are looked for. */
export const STORE_FILES = ['settings.store.json', 'settings.store.mjs', 'settings.store.js'] as const

/**
 * The store that a project has by its file `settings.store.json`, or by a module that exports one by default.
 *
 * @param file its path; that of `MAPPA_STORE` or the one in the directory of the project if left out
 * @param root the directory of the project, in which relative paths begin
 * @throws {SettingsError} where there is none, or it is wrong
 * @example
 * ```ts
 * const settings = await fetchSettings(definition, { store: await openStore() })
 * ```
 */
export async function openStore(file?: string, root: string = findRoot(getCurrentDirectory())): Promise<Store> {
  const asked = file ?? process.env.MAPPA_STORE
  const found = asked ?? STORE_FILES.find((each) => fs.existsSync(path.join(root, each)))
  if (found === undefined || found === '') throw refusal('store-file-missing', { files: STORE_FILES })
  const whole = path.resolve(root, found)
  if (!fs.existsSync(whole)) throw refusal('store-file-missing', { files: [found] })
  if (!whole.endsWith('.json')) return loadExportedStore(whole, found)
  return makeStore(readJson(whole, found), found, root)
}

async function loadExportedStore(whole: string, file: string): Promise<Store> {
  const { default: store } = (await import(pathToFileURL(whole).href)) as { default?: Partial<Store> }
  if (typeof store?.read === 'function' && typeof store.describe === 'function') return store as Store
  throw refusal('store-file-wrong', { reason: 'it exports no store by default' }, file)
}

function readJson(whole: string, file: string): Readonly<Record<string, unknown>> {
  try {
    const data: unknown = JSON.parse(fs.readFileSync(whole, 'utf8'))
    if (typeof data === 'object' && data !== null && !Array.isArray(data)) return data as Record<string, unknown>
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw refusal('store-file-wrong', { reason: "it can't be read" }, file)
  }
  throw refusal('store-file-wrong', { reason: 'it is no JSON object' }, file)
}

function makeStore(data: Readonly<Record<string, unknown>>, file: string, root: string): Store {
  const { kind, $schema: _, tls, password, token, ...others } = data
  const secure = tls === undefined ? {} : { tls: readTls(tls, file, root) }
  const options = { ...others, ...secure } as never
  if (kind === 'etcd') {
    const own = password === undefined ? {} : { password: readSecret(password, 'password', file, root) }
    return etcdStore({ ...(options as object), ...own } as never)
  }
  if (kind === 'http')
    return httpStore({ ...(options as object), token: readSecret(token, 'token', file, root) } as never)
  throw refusal('store-file-wrong', { reason: 'its "kind" must be "etcd" or "http"' }, file)
}

/** A secret that a file only says the place of. */
function readSecret(given: unknown, member: string, file: string, root: string): string {
  if (typeof given === 'string') throw refusal('store-secret-written', { member, file }, file)
  const { env, file: from } = (given ?? {}) as { env?: unknown; file?: unknown }
  if (typeof env === 'string') {
    const text = process.env[env]
    if (text !== undefined && text !== '') return text
    throw refusal('store-secret-missing', { member, place: `the variable ${env}` }, file)
  }
  if (typeof from !== 'string')
    throw refusal(
      'store-file-wrong',
      { reason: `its "${member}" must be { "env": "NAME" } or { "file": "path" }` },
      file,
    )
  try {
    return fs.readFileSync(path.resolve(root, from), 'utf8').replace(/\r?\n$/, '')
  } catch {
    throw refusal('store-secret-missing', { member, place: `the file ${from}` }, file)
  }
}

function readTls(given: unknown, file: string, root: string): TlsOptions {
  checkOptionNames(given, ['ca', 'cert', 'key', 'servername'], `"tls" of ${file}`)
  const { servername, ...files } = given as Readonly<Record<string, string>>
  const texts = Object.entries(files).map(([member, each]) => {
    try {
      return [member, fs.readFileSync(path.resolve(root, each))] as const
    } catch {
      throw refusal('store-file-wrong', { reason: `the file of "tls"."${member}" can't be read` }, file)
    }
  })
  return { ...Object.fromEntries(texts), ...(servername === undefined ? {} : { servername }) }
}

type Codes = 'store-file-missing' | 'store-file-wrong' | 'store-secret-written' | 'store-secret-missing'

function refusal(code: Codes, details: Readonly<Record<string, string | readonly string[]>>, file?: string) {
  const place = file === undefined ? {} : { file }
  const problem = storeProblem(code, { file: file ?? '', ...details } as never, place)
  return new SettingsError({ title: 'The store', stage: null, problems: [problem] })
}
