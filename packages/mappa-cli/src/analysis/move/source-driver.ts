import type { Rewriting } from '@mappa/source/rewriting'
import type { AccessStyle, ReadSetting } from './access-expression.ts'
import type { Obstacle } from './obstacles.ts'
import type { SettingsModule } from './settings-module.ts'
import type { Wanted } from './wanted.ts'

/** A place at which a wanted value stands. */
export interface DrivenPlace {
  readonly wanted: Wanted
  readonly line: number
  readonly column: number
  readonly start: number
  readonly end: number
  /** Why it can't be replaced; `null` where it can. */
  readonly obstacle: Obstacle | null
}

/** What is to be replaced in a source, and by what. */
export interface SourceChange {
  readonly wanted: readonly Wanted[]
  /** What a value becomes; `undefined` where it stays. */
  readonly settingOf: (wanted: Wanted) => ReadSetting | undefined
  /** Where a value stays: offsets at which it begins. */
  readonly listStays: (wanted: Wanted) => ReadonlySet<number>
  /** The values that are gone afterwards. */
  readonly gone: readonly string[]
  readonly as: AccessStyle
  /** The module that code imports its settings from. */
  readonly module: SettingsModule
  readonly moduleType: 'module' | 'commonjs'
  /** True for code of a page that Vite builds. */
  readonly ofPage: boolean
}

/** How one source is looked at and changed, whatever its language. */
export interface SourceDriver {
  /** How its language reads variables; `null` where nothing in it can be changed. */
  readonly rewriting: Rewriting | null
  /** True for JavaScript, which imports typed settings where it does not read the environment. */
  readonly readsSettings: boolean
  /** The file that gets the changed text, where it is not this one: a template. */
  readonly template: string | null
  /** True where what the program printed is taken away, if it shows what moves. */
  readonly clearsOutputs: boolean
  /** Why nothing in it can be replaced; `null` where something can. */
  readonly findObstacle: (wanted: readonly Wanted[]) => Obstacle | null
  readonly findPlaces: (wanted: readonly Wanted[]) => readonly DrivenPlace[]
  /** The parts of the text that a program printed. */
  readonly listOutputs: () => readonly { readonly start: number; readonly end: number }[]
  /** The text with readings in the places of values. */
  readonly rewrite: (change: SourceChange) => string
}
