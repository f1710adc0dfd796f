import type { Definition } from '@mappa/core/definition/definition'
import type { Skipped } from '@mappa/node/fs/read-file'
import type { FileChange } from '../../project/update-files.ts'
import type { AccessStyle } from './access-expression.ts'
import type { MovePlace } from './source-changes.ts'
import type { MovedFinding } from './targets.ts'
import type { TemplateChange } from './templates.ts'

/** Everything that moving some findings does, before any of it is done. */
export interface MovePlan {
  readonly stage: string
  readonly moved: readonly MovedFinding[]
  /** Places that stay as they are, and why. */
  readonly left: readonly MovePlace[]
  /** Files that were not searched for secrets that stay. */
  readonly notSearched: readonly Skipped[]
  /** In the order in which they are written: a value is in its file before it goes from the code. */
  readonly changes: readonly FileChange[]
  /** The files that secrets go into, which git has to ignore first. */
  readonly secretFiles: readonly string[]
  /** The other stages that have no value for a setting now, with its names. */
  readonly lacking: readonly { readonly stage: string; readonly names: readonly string[] }[]
  /** The settings after the change. */
  readonly definition: Definition
  readonly inRepository: boolean
  /** The files among the changes that git tracks, and so can put back. */
  readonly tracked: ReadonlySet<string>
  /** True where the program reads its settings through this package, which its `package.json` does not name. */
  readonly packageMissing: boolean
  /** The configuration of Vite to which the plugin, which pages now need, is to be added manually; `null` where there is none. */
  readonly pluginMissing: string | null
  readonly as: AccessStyle
  /** The commands that start the changed programs which are no JavaScript. */
  readonly starts: readonly string[]
  /** The templates that files become. */
  readonly templates: readonly TemplateChange[]
  /** True where JavaScript was changed. */
  readonly readsProcess: boolean
}
