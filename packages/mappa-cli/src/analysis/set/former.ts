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
 * The value that a new one replaces, where the setting accepts it for a while. The one of files counts: what this process has in its
 * environment is nothing that a file could keep.
 *
 * @param inspection the stage that the new value is for
 * @param text the new value
 * @param today as RFC 3339 writes a day
 * @returns `null` where nothing is to be kept
 * @throws {SettingsError} where another former value is still accepted, which would be lost
 */
export function findFormer(
  inspection: Inspection,
  declaration: Declaration,
  text: string,
  today: string,
): FormerValue | null {
  const time = declaration.options.acceptFormerFor
  if (time === undefined) return null
  const present = readFromFiles(inspection, ({ path }) => path === declaration.path)
  if (present === null || present.text === text || acceptText(declaration, present.text).failures.length > 0)
    return null
  const former = readFromFiles(inspection, ({ formerOf }) => formerOf === declaration.path)
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

/** The value that files have for a setting, with references filled in. */
function readFromFiles({ settings, getText }: Inspection, isMeant: (declaration: Declaration) => boolean) {
  const setting = settings.find(({ declaration }) => isMeant(declaration))
  const found = setting?.candidates().find(({ layer }) => layer.kind === 'file')
  const text = found === undefined ? undefined : getText(setting!.declaration.name, found).text
  return !text || found === undefined ? null : { text, setOn: found.setOn(), file: found.origin.file }
}
