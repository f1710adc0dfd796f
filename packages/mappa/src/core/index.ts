/**
 * `mappa`: what needs neither files nor Node. Runs in a browser as well.
 *
 * @packageDocumentation
 */
export { type DefinitionOptions, defineSettings, type SettingsTree } from './definition/define.ts'
export {
  type Declaration,
  type Definition,
  type InferredValues,
  isDefinition,
  type PublicValues,
  type RuntimeData,
  type RuntimeValues,
  type Values,
} from './definition/definition.ts'
export { definitionFromJson } from './definition/json.ts'
export type { Check, StandardSchema } from './definition/kinds/check.ts'
export type { LimitsIn, ListConstraints, NumberConstraints, TextConstraints } from './definition/kinds/constraints.ts'
/**
 * Makes settings, with one function for each kind. The description comes first; it is what messages, help and derived files say.
 *
 * @example
 * ```ts
 * setting.port('Port the dome service listens on', { default: 4100 })
 * setting.string('Key the dome controller asks for', { secret: true, minLength: 24 })
 * ```
 */
export * as setting from './definition/kinds/index.ts'
export type { AnySetting, CommonOptions, Conditions, Maker, ReadAt, Setting, StageRules } from './definition/setting.ts'
export { sharedSettings } from './definition/shared-settings.ts'
export type { Layer, LayerValue, Origin } from './layers/layer.ts'
export { environmentLayer } from './layers/sources.ts'
export { fillPage, publicPayload } from './page/payload.ts'
export type { Location, Problem, ProblemCode } from './problems/problem.ts'
export { type CheckedLayer, formatReport, type Paint, type Report, type ReportOptions } from './problems/report.ts'
export { SettingsError } from './problems/settings-error.ts'
export { type Resolution, type ResolveOptions, resolveSettings } from './resolve/resolve.ts'
export type { ResolvedSetting } from './resolve/resolved-setting.ts'
export { displayValue } from './secret/display.ts'
export { Secret, type SecretLabel } from './secret/secret.ts'
