import { holdsOwnSecret } from '@mappa/core/credentials/own-secret'
import type { Definition } from '@mappa/core/definition/definition'
import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { listLayerPaths } from '@mappa/core/layers/order'
import { readLayers } from '@mappa/core/layers/source'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { path } from '@mappa/node/fs/builtin'
import { isInside, leadsOutside, resolveRealPath } from '@mappa/node/fs/places'
import { readStats } from '@mappa/node/fs/regular-file'
import { findRepository, listIgnored, listTracked } from '@mappa/node/git/git'
import { envFiles } from '@mappa/node/sources/env-files'
import { listPresentStages } from '@mappa/node/sources/present-stages'

/** A layer file that exists, and the secrets that have a value in it. */
export interface EnvFile {
  /** Its name, relative to the root. */
  readonly file: string
  readonly local: boolean
  readonly secrets: readonly string[]
}

/** Every layer file of every stage that exists, those that packages share included. */
export function listEnvFiles(root: string, definition: Definition): EnvFile[] {
  const { settings } = definition
  const found = new Map<string, EnvFile>()
  const { sources } = envFiles(root, definition)
  for (const stage of listPresentStages(root, definition)) {
    for (const layer of readLayers(sources, stage)) {
      if (layer.state === 'absent' || found.has(layer.id)) continue
      const secrets = settings
        .filter(({ secret, name }) => secret && holdsOwnSecret(layer.get(name)?.value ?? ''))
        .map(({ name }) => name)
      found.set(layer.id, { file: layer.id, local: isLocalFile(layer.id), secrets })
    }
  }
  return [...found.values()]
}

/** The paths that layer files of a definition can have in its own directory. */
export function listOwnLayerPaths(root: string, definition: Definition): string[] {
  return [...new Set(listPresentStages(root, definition).flatMap((stage) => listLayerPaths(stage, [])))]
}

/** The same, with those of the directories that packages share. */
export function listAllLayerPaths(root: string, definition: Definition): string[] {
  const stages = listPresentStages(root, definition)
  return [...new Set(stages.flatMap((stage) => listLayerPaths(stage, definition.layersFrom)))]
}

/** Files that git tracks or would take along. */
export function checkIgnored(root: string, all: readonly EnvFile[]): Problem[] {
  const inside = makeRepositoryCheck(root)
  const files = all.filter(({ file }) => !leadsOutside(file) || inside(file))
  const names = files.map(({ file }) => file)
  const tracked = listTracked(root, names)
  const ignored = listIgnored(root, names)
  return files.flatMap((each) => {
    const { file, local, secrets } = each
    const code = tracked.has(file) ? chooseTrackedCode(each) : chooseUntrackedCode(each, ignored.has(file))
    const rule = local ? '.env.local and .env.*.local' : `/${path.basename(file)}`
    const details = { file, names: secrets, rule, local: local ? file : `${file}.local` }
    return code === null ? [] : [guardProblem(code, details, { file })]
  })
}

/** Of a file outside of the repository git knows nothing, and refuses every question in which one is named. */
function makeRepositoryCheck(root: string): (file: string) => boolean {
  let repository: string | null | undefined
  return (file) => {
    repository ??= findRepository(root)
    if (repository === null) return true
    return isInside(path.resolve(resolveRealPath(root), file), repository)
  }
}

const chooseTrackedCode = ({ secrets }: EnvFile) => (secrets.length > 0 ? 'secret-tracked' : null)

function chooseUntrackedCode({ local, secrets }: EnvFile, isIgnored: boolean) {
  if (isIgnored) return null
  if (secrets.length > 0) return local ? 'local-secret-not-ignored' : 'secret-not-ignored'
  return local ? 'local-not-ignored' : null
}

/** Files with secrets that other users of the machine can read. Windows has no such bits. */
export function checkModes(root: string, files: readonly EnvFile[]): Problem[] {
  if (process.platform === 'win32') return []
  return files.flatMap(({ file, secrets }) => {
    const stats = readStats(path.join(root, file))
    const open = stats !== undefined && (stats.mode & 0o077) !== 0
    return open && secrets.length > 0 ? [guardProblem('secret-readable', { file, names: secrets }, { file })] : []
  })
}
