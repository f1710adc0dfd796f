import { isHarmless } from '@mappa/core/credentials/harmless'
import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { readObjects } from '@mappa/node/git/objects'
import { bytewise, findHits, type SearchedSecret } from '@mappa/search/needles'
import type { Coverage } from '@mappa/search/read/coverage'
import { showPath } from '@mappa/search/shown-path'
import { type Finding, listFindings } from '../survey/findings.ts'
import { getMaxBytes, getSourceLanguage, scanText } from '../survey/scan-file.ts'
import { listStagedFiles, type StagedFile } from './staged.ts'

/** What is less sure than this is told by `mappa survey`, and stops no commit. */
const SURE = 0.85

/**
 * Looks for credentials in what the next commit adds, by their look and their names: those that no setting has yet. What the last commit has
 * in the same file is not told again.
 *
 * @param root a directory of the repository
 * @param needles the values of secrets, which are told elsewhere
 * @param coverage is told what could not be read
 */
export async function checkUndeclared(
  root: string,
  needles: readonly SearchedSecret[],
  coverage: Coverage,
): Promise<Problem[]> {
  const staged = listStagedFiles(root)
  if (staged === null) coverage.skip('the list of staged files', 'git-failed')
  const files = (staged ?? []).filter(({ file, isSubmodule }) => !isSubmodule && getSourceLanguage(file) !== null)
  const names = [...new Set(files.flatMap(({ object, before }) => [object, ...(before === null ? [] : [before])]))]
  const texts = new Map<string, string>()
  await readObjects(root, names, (read) => {
    if (read.skipped === null) texts.set(read.name, read.bytes.toString('utf8'))
  })
  for (const { file, object } of files) {
    const { path: shown } = showPath(file, needles)
    const text = texts.get(object)
    if (text === undefined) coverage.skip(shown, 'git-failed')
    else if (isLarge(file, text)) coverage.skip(shown, 'generated')
  }
  const isKnown = (value: string) => needles.length > 0 && findHits(bytewise(value), needles).length > 0
  return files.flatMap((file) => {
    const before = new Set(
      file.before === null ? [] : findCredentials(file, texts.get(file.before)).map(({ value }) => value),
    )
    return findCredentials(file, texts.get(file.object))
      .filter(({ value }) => !before.has(value) && !isKnown(value))
      .flatMap((finding) => reportCredential(finding, { code: 'credential-staged', needles }))
  })
}

function findCredentials({ file }: StagedFile, text: string | undefined): readonly Finding[] {
  const language = getSourceLanguage(file)
  if (text === undefined || language === null || isLarge(file, text)) return []
  return listSure(listFindings(scanText(text, file, language).literals, [], DEFAULT_STAGES))
}

function isLarge(file: string, text: string): boolean {
  return Buffer.byteLength(text) > getMaxBytes(getSourceLanguage(file))
}

/** Those of some findings that surely open something. */
export function listSure(findings: readonly Finding[]): readonly Finding[] {
  return findings.filter(
    ({ secret, confidence, name, value }) => secret && confidence >= SURE && !isHarmless(name, value),
  )
}

/** A problem for each place of a credential. */
export function reportCredential(
  { name, why, places, path: setting }: Finding,
  {
    code,
    needles,
  }: { readonly code: 'credential-staged' | 'credential-in-code'; readonly needles: readonly SearchedSecret[] },
): readonly Problem[] {
  return places.map(({ file: inner, line, column }) => {
    const { path: file } = showPath(inner, needles)
    return guardProblem(code, { name, why, file }, { file, line, column, name, setting })
  })
}
