import { decode } from '@mappa/core/envfile/reading/decode'
import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import type { Problem } from '@mappa/core/problems/problem'
import { SettingsError } from '@mappa/core/problems/settings-error'
import { fs, path } from '@mappa/node/fs/builtin'
import { mustBeRegular } from '@mappa/node/fs/regular-file'
import { readTemplate, type TemplateFile } from './fill-text.ts'

/**
 * Reads a template: text in UTF-8, of 16 MiB at most.
 *
 * @param file its path, relative to the current directory
 * @param isOurs tells the names that are filled in; all if left out
 * @throws {SettingsError} if it is missing or no text
 */
export function readTemplateFile(file: string, isOurs?: (name: string) => boolean): TemplateFile {
  const target = path.resolve(file)
  mustBeRegular(target, file)
  if (!fs.existsSync(target)) throw refusal(fillingProblem('template-missing', { file }, { file }))
  const decoded = decode(fs.readFileSync(target), file)
  if ('problem' in decoded) throw refusal(decoded.problem)
  return readTemplate(file, decoded.text, isOurs)
}

function refusal(problem: Problem): SettingsError {
  return new SettingsError({ title: 'The template', stage: null, problems: [problem] })
}
