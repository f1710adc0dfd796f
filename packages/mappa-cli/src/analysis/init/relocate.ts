import { holdsCredential } from '@mappa/core/credentials/credentials'
import { holdsOwnSecret } from '@mappa/core/credentials/own-secret'
import type { Definition } from '@mappa/core/definition/definition'
import { EnvDocument } from '@mappa/core/envfile/document'
import { isForAllStages, isLocalFile } from '@mappa/core/layers/env-file-name'
import { listLayerFiles } from '@mappa/core/layers/order'
import { hasErrors } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { readRegularText } from '@mappa/node/fs/regular-file'
import { SECRET_MODE } from '@mappa/node/fs/update-file'
import { ensureIgnored } from '@mappa/node/git/ignore-rules'
import { type FileChange, updateFiles } from '../../project/update-files.ts'
import { listOwnLayerPaths } from '../guard/env-files.ts'

/** A secret in an env file that is committed, and the file of one machine that it belongs into. */
export interface OpenSecret {
  readonly name: string
  readonly from: string
  readonly to: string
  /** True where that file has another value for it, so that nobody knows which one is meant. */
  readonly contradicted: boolean
}

/** What was found in env files that git does not ignore. */
export interface OpenSecrets {
  readonly found: readonly OpenSecret[]
  readonly unread: readonly string[]
}

/**
 * Finds secrets in env files that git does not ignore: values of secret settings, and values that open something whatever they are
 * called.
 *
 * @param files env files of the project, relative to the root; copies of them, which nothing reads, are left to the guard
 * @returns the secrets, and the files with errors, of which nobody knows what they hold and which are not changed
 */
export function openSecrets(root: string, files: readonly string[], definition: Definition): OpenSecrets {
  const layers = new Set(listOwnLayerPaths(root, definition))
  const secrets = new Set(
    definition.settings.filter(({ secret }) => secret).flatMap((each) => [each.name, ...each.formerly]),
  )
  const found: OpenSecret[] = []
  const unread: string[] = []
  const [first] = definition.stages
  for (const from of files.filter((file) => layers.has(file) && !isLocalFile(file))) {
    const to = chooseLocalFile(from, first!)
    const source = read(root, from)
    // Another value there is another key, or the same one of another stage.
    const targets = isForAllStages(from) ? listLayerFiles(first!).slice(1) : [to]
    const others = [...new Set(targets)].map((file) => read(root, file))
    const broken = [source, ...others].filter(({ problems }) => hasErrors(problems)).flatMap(({ file }) => file ?? [])
    unread.push(...broken)
    if (broken.length > 0) continue
    for (const name of new Set(source.names())) {
      const { value } = source.get(name)!
      const isOpen = secrets.has(name) ? holdsOwnSecret(value) : typeof value === 'string' && holdsCredential(value)
      if (!isOpen) continue
      const isOther = (other: EnvDocument) => {
        const entry = other.get(name)
        return entry !== undefined && entry.value !== '' && String(entry.value) !== String(value)
      }
      found.push({ name, from, to, contradicted: others.some(isOther) })
    }
  }
  return { found, unread }
}

/**
 * The file of one machine that a value belongs into. What was in the file of all stages is hardly ever the key of production, so it
 * becomes that of the first stage, and the others are asked for their own.
 */
function chooseLocalFile(file: string, firstStage: string): string {
  return isForAllStages(file) ? listLayerFiles(firstStage)[3] : `${file}.local`
}

/** Moves values into other files, such as secrets into files that git ignores. A value is in its new file before it leaves the old one. */
export async function relocate(root: string, secrets: readonly OpenSecret[]): Promise<void> {
  const movable = secrets.filter(({ contradicted }) => !contradicted)
  for (const to of new Set(movable.map((each) => each.to).filter(isLocalFile)))
    await ensureIgnored(path.dirname(path.join(root, to)), path.basename(to))
  const before = new Map<string, string | null>()
  const after = new Map<string, EnvDocument>()
  const readDocument = (file: string) => {
    if (!before.has(file)) before.set(file, readRegularText(path.join(root, file), file))
    return after.get(file) ?? EnvDocument.from(before.get(file) ?? '', { file })
  }
  for (const { name, from, to } of movable) {
    const source = readDocument(from)
    const target = readDocument(to)
    if (target.get(name) === undefined) after.set(to, withEntry(target, source, name))
    after.set(from, source.remove(name))
  }
  const changes = [...after].map(
    ([file, document]): FileChange => ({
      file,
      before: before.get(file) ?? null,
      after: String(document),
      ...(isLocalFile(file) ? { newMode: SECRET_MODE, ownerOnly: true } : {}),
    }),
  )
  const targets = new Set(movable.map(({ to }) => to))
  const order = (each: FileChange) => (targets.has(each.file) ? 0 : 1)
  await updateFiles(
    root,
    [...changes].sort((a, b) => order(a) - order(b)),
  )
}

/** A document with the entry of another one. What is made of references stays as it is written. */
function withEntry(target: EnvDocument, source: EnvDocument, name: string): EnvDocument {
  const entry = source.get(name)!
  if (typeof entry.value === 'string') return target.set(name, entry.value)
  const text = String(target)
  const gap = text === '' || text.endsWith('\n') ? '' : '\n'
  const value = source.written(entry).value.replaceAll('\r\n', '\n')
  return EnvDocument.from(`${text}${gap}${name}=${value}\n`, { file: target.file ?? '' })
}

function read(root: string, file: string): EnvDocument {
  return EnvDocument.from(readRegularText(path.join(root, file), file) ?? '', { file })
}
