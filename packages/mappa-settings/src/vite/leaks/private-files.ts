import { basename } from 'node:path'
import { EnvDocument } from '@mappa/core/envfile/document'
import { holdsValues } from '@mappa/core/layers/env-file-name'
import { opensSomething } from '@mappa/search/hidden-values'
import type { ProjectState } from '../session/project-state.ts'

/**
 * True for a file of values that no page may have as a whole: one with a value that is not public. Documentation may show the others.
 *
 * @param target what a person calls it
 */
export function holdsPrivateValues(target: string, bytes: Buffer, { definition }: ProjectState): boolean {
  if (bytes.toString('latin1').trim() === '') return false
  const settings = definition?.settings ?? []
  const find = (name: string) => settings.find((each) => each.name === name || each.formerly.includes(name))
  // A mounted file bears the name of its variable.
  if (!holdsValues(target)) return find(basename(target).toUpperCase())?.public !== true
  const { entries, problems } = EnvDocument.fromBytes(bytes)
  const isPrivate = (name: string, value: unknown) => {
    const setting = find(name)
    return setting === undefined ? typeof value !== 'string' || opensSomething(name, value) : !setting.public
  }
  // What can't be read may be anything.
  return problems.length > 0 || entries.some(({ name, value }) => isPrivate(name, value))
}
