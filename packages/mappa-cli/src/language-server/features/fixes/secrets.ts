import { isLocalFile } from '@mappa/core/layers/env-file-name'
import { command, type Fix } from './fix.ts'

/** The command of the server that moves a secret into the file of this machine. */
export const MOVE_SECRET = 'mappa.moveSecret'
/** The command of the server that tells git to ignore a file. */
export const IGNORE_FILE = 'mappa.ignoreFile'

/** The server moves it: the value is in no edit, and its file can be read by its owner alone. */
export const secretMoved: Fix = (broken) => {
  const { data, file, uri } = broken
  if (data.name === null || isLocalFile(file)) return []
  return [command(broken, `Move ${data.name} to ${file}.local, which git ignores`, MOVE_SECRET, [uri, data.name])]
}

/** Has git ignore a file of this machine. */
export const ignored: Fix = (broken) => [
  command(broken, `Have git ignore ${broken.file}`, IGNORE_FILE, [broken.uri, broken.file]),
]
