import type { Problem } from '@mappa/core/problems/problem'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { toVisibleJson } from '@mappa/core/text/escape-invisible'
import type { Inspection } from '@mappa/node/load/inspect'
import { out } from './streams.ts'

/**
 * Prints data for programs: two spaces of indent, and nothing else on standard output. Control characters that
 * JSON leaves as they are become escapes, which mean the same to every reader but do nothing to a terminal.
 */
export function printJson(data: unknown): void {
  out.print(toVisibleJson(JSON.stringify(data, null, 2)))
}

/** The options of a command, of which `--format json` says the same as `--json`. */
export function asJson<O extends { readonly json?: boolean; readonly format?: string }>(options: O): O {
  return options.format === 'json' ? { ...options, json: true } : options
}

/**
 * One stage as data. The shape is documented in `docs/json-output.md` and is kept stable.
 *
 * @param reveal true where the person asked for the values of secrets
 */
export function stageAsData(inspection: Inspection, reveal: boolean) {
  return {
    stage: inspection.stage,
    ...(inspection.program === null ? {} : { program: inspection.program }),
    root: inspection.root,
    settings: inspection.settings.map((each) => settingAsData(each, reveal)),
    problems: inspection.problems.map(problemAsData),
  }
}

/** One setting as data. A value that may not be shown is `null`, and `masked` is true. */
export function settingAsData(setting: ResolvedSetting, reveal: boolean) {
  const { declaration, origin, valid } = setting
  const hidden = setting.masked && !reveal
  // What JSON can't hold, as dates and bytes, is told as the text that it was.
  const isText = typeof setting.value === 'object' && declaration.kind.type.isText === true
  const known = valid && !isText ? setting.value : setting.text
  return {
    path: declaration.path,
    name: declaration.name,
    kind: declaration.kind.name,
    value: hidden ? null : (known ?? null),
    masked: hidden && setting.text !== undefined,
    valid,
    secret: declaration.secret,
    public: declaration.public,
    required: !declaration.optional && declaration.default === undefined,
    readAt: declaration.readAt,
    origin,
  }
}

/** One problem as data. */
export function problemAsData({ code, severity, stage, setting, name, file, line, column, message, hint }: Problem) {
  return { code, severity, stage, setting, name, file, line, column, message, hint }
}
