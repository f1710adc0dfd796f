import type { Declaration, Definition } from '../../../core/definition/definition.ts'
import type { Layer } from '../../../core/layers/layer.ts'
import { layerTitle } from '../../../core/layers/order.ts'
import { textLayer } from '../../../core/layers/sources.ts'
import { problem } from '../../../core/problems/problem.ts'
import { Reporter } from '../../../core/problems/reporter.ts'
import { closestMatch } from '../../../core/text/closest-match.ts'
import { util } from '../../fs/builtin.ts'

/** What a command line asks for beside values. */
export interface ParsedFlags {
  readonly layer: Layer
  readonly help: boolean
  readonly version: boolean
}

/**
 * The flag of a setting: `night.starMapUrl` gives `star-map-url` of `night`.
 *
 * @example
 * ```ts
 * flagOf(['night', 'starMapUrl']) // 'night-star-map-url'
 * ```
 */
export function flagOf(keys: readonly string[]): string {
  return keys
    .map((key) => key.replace(/([a-z0-9])([A-Z])/g, '$1-$2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1-$2'))
    .join('-')
    .replaceAll('_', '-')
    .toLowerCase()
}

/**
 * Reads the settings that a command line gives, as a layer. What is no flag is the program's own and is left alone, and so is
 * everything behind `--`.
 *
 * @param words the command line without the program, as `process.argv.slice(2)` has it
 */
export function parseFlags({ settings }: Definition, words: readonly string[]): ParsedFlags {
  const byFlag = new Map(settings.map((each) => [flagOf(each.keys), each]))
  const values = new Map<string, string>()
  const reporter = new Reporter()
  const asked = { help: false, version: false }
  const { tokens } = util.parseArgs({
    args: [...words],
    options: Object.fromEntries(
      [...byFlag].map(([flag, { kind }]) => [flag, { type: kind.isSwitch === true ? 'boolean' : 'string' } as const]),
    ),
    strict: false,
    allowPositionals: true,
    tokens: true,
  })
  for (const token of tokens) {
    if (token.kind !== 'option' || !token.rawName.startsWith('--')) continue
    const { name: flag, rawName, value } = token
    if ((flag === 'help' || flag === 'version') && !byFlag.has(flag)) {
      asked[flag] = true
      continue
    }
    const found = settingOf(flag, byFlag)
    if (found !== null) takeFlag(found, rawName, value, values, reporter)
    else reporter.report(problem('flag-unknown', { flag: rawName, near: nearFlag(flag, byFlag) }, { layer: TITLE }))
  }
  const { problems } = reporter
  return { layer: textLayer({ kind: 'flags', textOf: (name) => values.get(name), problems }), ...asked }
}

const TITLE = layerTitle('flags')

/** Takes the value of a flag, or says why it has none that can be used. */
function takeFlag(
  { declaration, negated }: FoundSetting,
  flag: string,
  value: string | undefined,
  values: Map<string, string>,
  reporter: Reporter,
): void {
  const { name, path, secret, kind } = declaration
  const place = { layer: TITLE, name, setting: path }
  if (secret) reporter.report(problem('flag-secret', { flag, name }, place))
  else if (kind.isSwitch === true) values.set(name, value ?? (negated ? 'false' : 'true'))
  else if (value === undefined) reporter.report(problem('flag-value-missing', { flag }, place))
  else values.set(name, value)
}

/** The setting of a flag, and whether the flag says no to it. */
interface FoundSetting {
  readonly declaration: Declaration
  readonly negated: boolean
}

/** The setting that a flag names; `--no-dome-motors` says no to `dome.motors`. */
function settingOf(flag: string, byFlag: ReadonlyMap<string, Declaration>): FoundSetting | null {
  const own = byFlag.get(flag)
  if (own !== undefined) return { declaration: own, negated: false }
  const negated = flag.startsWith('no-') ? byFlag.get(flag.slice(3)) : undefined
  return negated?.kind.isSwitch === true ? { declaration: negated, negated: true } : null
}

function nearFlag(flag: string, byFlag: ReadonlyMap<string, Declaration>): string | null {
  const near = closestMatch([...byFlag.keys(), 'help', 'version'])(flag.replace(/^no-/, ''))
  return near === null ? null : `--${near}`
}
