import { ParsedEnvFile } from '@mappa/core/envfile/reading/reading'
import { type Layer, type LayerValue, layerValue } from '@mappa/core/layers/layer'
import type { Source } from '@mappa/core/layers/source'
import { problem } from '@mappa/core/problems/problem'
import { Reporter } from '@mappa/core/problems/reporter'
import { fs, path } from '../fs/builtin.ts'

/** Larger files are no values, in bytes: 1 MiB. */
const MAX_FILE_BYTES = 1024 * 1024

/**
 * A directory with one file for each variable, as orchestrators mount secrets, as a source. A file bears the name of its variable,
 * in capitals or in small letters; one line end at its end is no part of the value, and `$` is just a character. A directory that is
 * not there is an absent layer, as on a machine where nothing is mounted.
 *
 * @param root the directory of the project, in which a relative path begins
 * @param directory the path as it was configured
 * @param names the variables to look for
 */
export function directorySource(root: string, directory: string, names: readonly string[]): Source {
  return {
    id: 'directory',
    kind: 'directory',
    read: () => readDirectory(root, directory, names),
    paths: () => [path.resolve(root, directory)],
  }
}

function readDirectory(root: string, directory: string, names: readonly string[]): Layer {
  const whole = path.resolve(root, directory)
  const reporter = new Reporter()
  const values = new Map<string, LayerValue>()
  let present: readonly string[] | null = null
  try {
    present = fs.readdirSync(whole)
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException
    if (code !== 'ENOENT')
      reporter.report(problem('directory-unreadable', { directory, reason: code ?? 'unknown' }, { file: directory }))
  }
  const files = new Set(present)
  for (const name of names) {
    const file = [name, name.toLowerCase()].find((each) => files.has(each))
    if (file === undefined) continue
    const shown = `${directory.replace(/\/$/, '')}/${file}`
    const value = readValue(path.join(whole, file), shown, reporter)
    const origin = { layer: 'directory', file: shown, line: 1, column: 1 }
    values.set(name, layerValue(origin, value ?? '', { broken: value === null }))
  }
  const notRead = reporter.hasErrors ? 'unreadable' : 'absent'
  return {
    id: 'directory',
    kind: 'directory',
    title: directory,
    state: present === null ? notRead : 'read',
    problems: reporter.problems,
    get: (name) => values.get(name),
    names: () => [],
  }
}

function readValue(whole: string, file: string, reporter: Reporter): string | null {
  try {
    const stats = fs.statSync(whole)
    if (stats.isDirectory()) reporter.report(problem('file-is-directory', { file }, { file }))
    else if (!stats.isFile()) reporter.report(problem('file-not-regular', { file }, { file }))
    else if (stats.size > MAX_FILE_BYTES) reporter.report(problem('file-too-large', { size: stats.size }, { file }))
    else return decode(fs.readFileSync(whole), file, reporter)
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException
    reporter.report(
      code === 'EACCES'
        ? problem('file-no-permission', { file }, { file })
        : problem('file-unreadable', { file, reason: message.replace(/,.*$/s, '') }, { file }),
    )
  }
  return null
}

/** The text of the bytes; what no text can hold is told as it is for env files. */
function decode(bytes: Buffer, file: string, reporter: Reporter): string | null {
  const text = bytes.toString('utf8')
  if (!/[\0\ufffd]/.test(text)) return text.replace(/\r?\n$/, '')
  const found = ParsedEnvFile.readBytes(bytes, file).problems.find(
    ({ code }) => code === 'nul-byte' || code === 'not-utf8' || code === 'utf16-text',
  )
  reporter.report(found ?? problem('file-unreadable', { file, reason: 'it is no UTF-8 text' }, { file }))
  return null
}
