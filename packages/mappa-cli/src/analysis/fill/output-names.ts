import { fillingProblem } from '@mappa/core/problems/catalogue/filling'
import { settingsError } from '@mappa/core/problems/settings-error'
import { path } from '@mappa/node/fs/builtin'

const WORDS = ['stage', 'name', 'extension'] as const

/**
 * Makes the name of an output.
 *
 * @param pattern the name, with `{stage}`, `{name}` and `{extension}` in it
 * @param template the path of the template; of `deploy.template.yaml` the name is `deploy` and the extension `yaml`
 * @throws {SettingsError} if the pattern has other words in braces
 */
export function fillOutputName(pattern: string, template: string, stage: string): string {
  const [, name = '', extension = ''] = /^(.*?)(?:\.([^.]*))?$/s.exec(path.basename(template)) ?? []
  const words: Readonly<Record<string, string>> = { stage, name: name.replace(/\.template$/, ''), extension }
  return pattern.replace(/\{([^{}]*)\}/g, (written, word: string) => {
    if (Object.hasOwn(words, word)) return words[word]!
    const names = WORDS.map((each) => `{${each}}`)
    throw settingsError(fillingProblem('out-pattern-wrong', { out: pattern, written, names }))
  })
}
