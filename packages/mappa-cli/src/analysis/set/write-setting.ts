import { containsCredential } from '@mappa/core/credentials/credentials'
import { acceptText } from '@mappa/core/definition/accept'
import { type Declaration, resolveStage } from '@mappa/core/definition/definition'
import { toFailureProblem } from '@mappa/core/definition/failure-problem'
import { EnvDocument } from '@mappa/core/envfile/document'
import { listLayerFiles } from '@mappa/core/layers/order'
import { commandProblem } from '@mappa/core/problems/catalogue/commands'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import { writingProblem } from '@mappa/core/problems/catalogue/writing'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError, settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'
import { getTarget, mustBeReplaceable } from '@mappa/node/fs/replaceable'
import { readText, SECRET_MODE, type Updated, updateFile } from '@mappa/node/fs/update-file'
import { ensureIgnored, type IgnoreOutcome } from '@mappa/node/git/ignore-rules'
import type { FormerValue } from './former.ts'

/** Which layer file a value goes into. */
export interface Target {
  /** The stage; `null` for the files of all stages. */
  readonly stage: string | null
  /** True for the file of this machine alone. A secret goes there in any case. */
  readonly local: boolean
  /** The directory of a file that packages share, relative to the root; that of the project if left out. */
  readonly directory?: string
  /** The value that is replaced, where it is accepted for a while; it goes into the same file. */
  readonly former?: FormerValue | null
  /** Says whether a text contains a secret, so that a wrong one that does is not shown; none does if left out. */
  readonly containsSecret?: (text: string) => boolean
}

/** What was done. */
export interface Written extends Updated {
  /** The layer file, relative to the root. */
  readonly file: string
  /** Line of the entry, from 1. */
  readonly line: number
  /** What was done to keep a secret out of git; `null` for what is none. */
  readonly ignored: IgnoreOutcome | null
}

/** The layer file that a setting's value goes into, relative to the root. */
export function chooseLayerFile(declaration: Declaration, target: Target): string {
  const { directory } = target
  const file = chooseName(declaration, target)
  return directory === undefined ? file : `${directory}/${file}`
}

function chooseName({ secret }: Declaration, { stage, local }: Target): string {
  const [shared, sharedLocal, ofStage, ofStageLocal] = listLayerFiles(stage ?? '')
  if (stage === null) return secret || local ? sharedLocal : shared
  return secret || local ? ofStageLocal : ofStage
}

/** What writing a value does to its file, before it is done. */
export interface PlannedSetting {
  /** The layer file, relative to the root. */
  readonly file: string
  /** Its text now; `null` where it does not exist. */
  readonly before: string | null
  readonly after: string
}

/**
 * Works out what {@link writeSetting} would do. Writes nothing.
 *
 * @throws {SettingsError} where the value breaks a rule or can't be written into the file
 */
export function planSetting(
  root: string,
  declaration: Declaration,
  text: string,
  target: Target,
  today: string,
): PlannedSetting {
  mustFit(declaration, text, target)
  const file = chooseLayerFile(declaration, target)
  const whole = getTarget(path.join(root, file))
  mustBeReplaceable(whole, file)
  const before = readText(whole, file)
  const document = EnvDocument.from(before ?? '', { file })
  return {
    file,
    before,
    after: String(applyEdits(document, declaration, { text, today, former: target.former ?? null })),
  }
}

/**
 * Writes one value into a layer file. It is converted and checked before anything is touched, and the file is
 * ignored by git before a secret is in it.
 *
 * @param root the directory of the project
 * @param text the value as text; it is taken as it stands, `$` included
 * @param today the day to note above a setting that is to be rotated, as `2026-11-23`
 * @param seen the text that the file must still have, `null` for no file; any text if left out
 * @throws {SettingsError} where the value breaks a rule or the file can't be written; nothing has changed then
 */
export async function writeSetting(
  root: string,
  declaration: Declaration,
  text: string,
  target: Target,
  today: string,
  seen?: string | null,
): Promise<Written> {
  mustFit(declaration, text, target)
  const { secret } = declaration
  const file = chooseLayerFile(declaration, target)
  const whole = path.join(root, file)
  const ignored = secret ? await ensureIgnored(path.dirname(whole), path.basename(whole)) : null
  let line = 1
  const updated = await updateFile(
    whole,
    (before) => {
      if (seen !== undefined && before !== seen) throw settingsError(writingProblem('file-changed', { file }, { file }))
      const document = EnvDocument.from(before ?? '', { file: path.basename(file) })
      const after = applyEdits(document, declaration, { text, today, former: target.former ?? null })
      line = after.get(declaration.name)!.line
      return String(after)
    },
    secret ? { newMode: SECRET_MODE, ownerOnly: true } : {},
  )
  return { ...updated, file, line, ignored }
}

/** What is written: a value, the day on which that is, and the value that it replaces. */
interface NewValue {
  readonly text: string
  readonly today: string
  readonly former: FormerValue | null
}

function applyEdits(
  document: EnvDocument,
  { name, options }: Declaration,
  { text, today, former }: NewValue,
): EnvDocument {
  const after = document.set(name, text, options.rotateEvery === undefined ? {} : { day: today })
  return former === null ? after : after.set(former.name, former.text, { after: name, day: today })
}

function mustFit(general: Declaration, text: string, target: Target): void {
  const declaration = target.stage === null ? general : resolveStage(general, target.stage)
  const problems = listFaults(declaration, text, target)
  const title = `${declaration.name} was not written`
  if (problems.length > 0) throw new SettingsError({ title, stage: target.stage, problems })
}

/** Why a setting can't have a value, without the value if it is a secret. */
export function listFaults(declaration: Declaration, text: string, target: Target): readonly Problem[] {
  const { name, path: setting, secret, public: isPublic, allowEmpty } = declaration
  const place = { name, setting, stage: target.stage }
  if (text === '' && !allowEmpty) return [commandProblem('value-empty', { name }, place)]
  if (!secret && !isPublic && !target.local && containsCredential(text)) {
    const file = chooseLayerFile(declaration, target)
    return [guardProblem('credential-to-commit', { name, path: setting, file }, { ...place, file })]
  }
  const { failures } = acceptText(declaration, text)
  const contains = !secret && failures.length > 0 && target.containsSecret?.(text) === true
  return failures.map((each) => toFailureProblem(each, { name, text, secret: secret || contains, contains }, place))
}
