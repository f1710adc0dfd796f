import { holdsCredential } from '@mappa/core/credentials/credentials'
import { isHarmless, isPlaceholder } from '@mappa/core/credentials/harmless'
import { classifyMeaning } from '@mappa/core/credentials/words'
import type { Definition } from '@mappa/core/definition/definition'
import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { classifyEnvFile } from '@mappa/core/layers/env-file-name'
import { MAX_SEARCHED_BYTES } from '@mappa/core/problems/skip-reasons'
import { path } from '@mappa/node/fs/builtin'
import { readLimited } from '@mappa/node/fs/read-file'
import { isRegularFile } from '@mappa/node/fs/regular-file'
import { listFiles } from '@mappa/node/git/list-files'
import { listAllLayerPaths } from './env-files.ts'

/** Shorter values are words. */
const SHORTEST = 6

/**
 * The names in an env file whose values open something, whatever they are called.
 *
 * @param secrets names whose values count whatever they look like
 * @param byName true where a value counts if its name alone says that it is a secret
 */
export function findOpenNames(
  bytes: Uint8Array,
  secrets: ReadonlySet<string>,
  { byName }: { readonly byName: boolean },
): string[] {
  const { entries } = ParsedEnvFile.readBytes(bytes, null)
  const isSecret = (name: string, value: string) =>
    secrets.has(name) ||
    holdsCredential(value) ||
    (byName && value.length >= SHORTEST && classifyMeaning([name]) === 'secret')
  const open = entries.filter(
    ({ name, value }) =>
      typeof value === 'string' &&
      !isPlaceholder(value) &&
      isSecret(name, value) &&
      (secrets.has(name) || !isHarmless(name, value)),
  )
  return [...new Set(open.map(({ name }) => name))]
}

/** A file with secrets that no stage reads. */
export interface OpenCopy {
  /** Relative to the root. */
  readonly file: string
  readonly names: readonly string[]
}

/** The env files and copies of them below a directory that no stage reads, that git has or would take along, and that have secrets in them. */
export function findOpenCopies(root: string, definition: Definition): readonly OpenCopy[] {
  const own = new Set(listAllLayerPaths(root, definition))
  const secrets = new Set(definition.settings.flatMap(({ secret, name }) => (secret ? [name] : [])))
  return (listFiles(root)?.files ?? []).flatMap(({ file }): OpenCopy[] => {
    const kind = classifyEnvFile(file)
    const whole = path.join(root, file)
    if (kind === null || kind === 'example' || own.has(file) || !isRegularFile(whole)) return []
    const read = readLimited(whole, MAX_SEARCHED_BYTES)
    const names = read.skipped === null ? findOpenNames(read.bytes, secrets, { byName: true }) : []
    return names.length === 0 ? [] : [{ file, names }]
  })
}
