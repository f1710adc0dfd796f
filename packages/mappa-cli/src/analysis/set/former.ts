import { acceptText } from '@mappa/core/definition/accept'
import type { Declaration } from '@mappa/core/definition/definition'
import { nameFormer } from '@mappa/core/definition/former-value'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { settingsError } from '@mappa/core/problems/settings-error'
import { addDuration } from '@mappa/core/text/iso-duration'
import type { Inspection } from '@mappa/node/load/inspect'

/** A value that a new one replaces, and that is accepted for a while. */
export interface FormerValue {
  /** The variable that holds it from now on. */
  readonly name: string
  /** The last day on which it is accepted. */
  readonly until: string
  readonly text: string
}

/**
 * The value that a new one replaces, where the setting accepts it for a while. The one of files counts, up to the file that is written:
 * what lies above it stays, and what this process has in its environment is nothing that a file could keep.
 *
 * @param inspection the stage that the new value is for
 * @param change the new value, the file that it goes into, and the day as RFC 3339 writes it
 * @returns `null` where nothing is to be kept
 * @throws {SettingsError} where another former value is still accepted, which would be lost
 */
export function findFormer(
  inspection: Inspection,
  declaration: Declaration,
  { text, file, today }: { readonly text: string; readonly file: string; readonly today: string },
): FormerValue | null {
  const time = declaration.options.acceptFormerFor
  if (time === undefined) return null
  const present = readFromFiles(inspection, file, ({ path }) => path === declaration.path)
  if (present === null || present.text === text || acceptText(declaration, present.text).failures.length > 0)
    return null
  const former = readFromFiles(inspection, file, ({ formerOf }) => formerOf === declaration.path)
  const name = nameFormer(declaration.name)
  if (former !== null && former.text !== text && former.text !== present.text) {
    const end = former.setOn === null ? null : addDuration(former.setOn, time)
    if (end === null || end >= today) {
      const place = { name, setting: declaration.path, file: former.file }
      throw settingsError(
        commandProblem(
          'former-still-accepted',
          { name, present: declaration.name, end: end ?? 'a day not recorded' },
          place,
        ),
      )
    }
  }
  return Object.defineProperty({ name, until: addDuration(today, time)! }, 'text', {
    get: () => present.text,
  }) as FormerValue
}

/** The value that a file and those below it have for a setting, with references filled in. */
function readFromFiles(
  { settings, layers, getText }: Inspection,
  file: string,
  isMeant: (declaration: Declaration) => boolean,
) {
  const setting = settings.find(({ declaration }) => isMeant(declaration))
  const own = layers.findIndex(({ id }) => id === file)
  const reachable = new Set(layers.slice(0, own + 1).filter(({ kind }) => kind === 'file'))
  const found = setting?.candidates().find(({ layer }) => reachable.has(layer))
  const text = found === undefined ? undefined : getText(setting!.declaration.name, found).text
  return !text || found === undefined ? null : { text, setOn: found.setOn(), file: found.origin.file }
}
