import { DEFAULT_STAGES } from '@mappa/core/definition/stages'
import { guardProblem } from '@mappa/core/problems/catalogue/guard'
import type { Problem } from '@mappa/core/problems/problem'
import { readObjects } from '@mappa/node/git/objects'
import { bytewise, findHits, type SearchedSecret } from '@mappa/search/needles'
import { getLanguage } from '@mappa/source'
import { type Finding, listFindings } from '../survey/findings.ts'
import { scanText } from '../survey/scan-file.ts'
import { showPath } from './shown-path.ts'
import { listStagedFiles, type StagedFile } from './staged.ts'

/** What is less sure than this is told by `mappa survey`, and stops no commit. */
const SURE = 0.85
/** Larger sources are made by programs, in bytes. */
const LARGEST = 1024 * 1024

/**
 * Looks for credentials in what the next commit adds, by their look and their names: those that no setting has yet. What the last commit has
 * in the same file is not told again.
 *
 * @param root a directory of the repository
 * @param needles the values of secrets, which are told elsewhere
 */
export async function checkUndeclared(root: string, needles: readonly SearchedSecret[]): Promise<Problem[]> {
  const files = (listStagedFiles(root) ?? []).filter(
    ({ file, isSubmodule }) => !isSubmodule && getLanguage(file) !== null,
  )
  const names = [...new Set(files.flatMap(({ object, before }) => [object, ...(before === null ? [] : [before])]))]
  const texts = new Map<string, string>()
  await readObjects(root, names, (read) => {
    if (read.skipped === null && read.bytes.length <= LARGEST) texts.set(read.name, read.bytes.toString('utf8'))
  })
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
  const language = getLanguage(file)
  if (text === undefined || language === null) return []
  return listSure(listFindings(scanText(text, file, language).literals, [], DEFAULT_STAGES))
}

/** Those of some findings that surely open something. */
export function listSure(findings: readonly Finding[]): readonly Finding[] {
  return findings.filter(({ secret, confidence }) => secret && confidence >= SURE)
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
