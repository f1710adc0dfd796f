/** What `mappa-settings` makes public of the core. */
export { type DefinitionOptions, defineSettings, type SettingsTree } from './definition/define.ts'
export {
  type Declaration,
  type Definition,
  type InferredValues,
  isDefinition,
  type PathsIn,
  type ProgramOf,
  type PublicValues,
  type RuntimeData,
  type RuntimeValues,
  type Values,
} from './definition/definition.ts'
export { definitionFromJson } from './definition/json.ts'
export type { Base64Options } from './definition/kinds/base64.ts'
export type { Check, StandardResult, StandardSchema } from './definition/kinds/check.ts'
export type { ChoiceMaker } from './definition/kinds/choice.ts'
export type { LimitsIn, ListConstraints, NumberConstraints, TextConstraints } from './definition/kinds/constraints.ts'
export type { CustomMaker } from './definition/kinds/custom.ts'
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
export type { IpOptions } from './definition/kinds/ip.ts'
export type { JsonMaker } from './definition/kinds/json.ts'
export type { ListMaker } from './definition/kinds/list.ts'
export type { PathOptions } from './definition/kinds/path.ts'
export type { PemOptions } from './definition/kinds/pem.ts'
export type { PortConstraints } from './definition/kinds/port.ts'
export type { RuleOptions, SettingsRule } from './definition/rule-forms.ts'
export type { AnySetting, CommonOptions, Conditions, Maker, ReadAt, Setting, StageRules } from './definition/setting.ts'
export { sharedSettings } from './definition/shared-settings.ts'
export type { StageOptions, StageTree } from './definition/stages.ts'
export type { Layer, LayerValue, Origin } from './layers/layer.ts'
export type { LayerKind } from './layers/order.ts'
export { environmentLayer } from './layers/sources.ts'
export { fillPage, type PayloadOptions, publicPayload } from './page/payload.ts'
export type { Severity } from './problems/catalogue/entry.ts'
export type { Location, Problem, ProblemCode } from './problems/problem.ts'
export { type CheckedLayer, formatReport, type Paint, type Report, type ReportOptions } from './problems/report.ts'
export { SettingsError } from './problems/settings-error.ts'
export { type Resolution, type ResolveOptions, resolveSettings } from './resolve/resolve.ts'
export type { ResolvedSetting } from './resolve/resolved-setting.ts'
export { type CodeFrame, type DisplayOptions, displayValue } from './secret/display.ts'
export { Secret, type SecretLabel } from './secret/secret.ts'
