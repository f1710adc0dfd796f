import type { DiffView } from './diff.ts'
import type { FindingView } from './findings.ts'
import type { Overview } from './overview.ts'
import type { ProblemView } from './problem.ts'

/** What the page shows first, and again after each change. */
export interface PageState {
  /** Counts the changes since the command was started. */
  readonly revision: number
  readonly overview: Overview
  /** What keeps the definition or the store from being read; the overview is then the last one that could be made. */
  readonly failures: readonly ProblemView[]
  /** True where files can be opened in an editor. */
  readonly hasEditor: boolean
}

/** Which layer file a value is to go into. */
export interface EditTarget {
  /** The path of the setting. */
  readonly setting: string
  /** The stage; `null` for the files of all stages. */
  readonly stage: string | null
  /** True for the file of this machine alone. A secret goes there in any case. */
  readonly local: boolean
}

/** A value that a person entered. It goes to the server, and never back. */
export interface Edit extends EditTarget {
  readonly text: string
}

/** What writing a value would do. */
export interface EditPreview {
  /** The layer file, relative to the project. */
  readonly file: string
  /** Why the value can't be written; empty where it can. */
  readonly problems: readonly ProblemView[]
  /** What changes in the file; `null` where it can't be written. */
  readonly diff: DiffView | null
  /** Stands for the text that the file has now; saving takes it back. Says nothing about the text. */
  readonly version: string
  /** The place that overrides the value in this stage; `null` where it will be in use. */
  readonly overriddenBy: string | null
}

/** What was written. */
export interface EditSaved {
  /** Where the value stands now: `.env.production:3`. */
  readonly place: string
  readonly changed: boolean
  /** Sentences about what was done beside it, such as that git ignores the file now. */
  readonly notes: readonly string[]
}

/** What a survey of the code found. */
export interface SurveyView {
  readonly findings: readonly FindingView[]
  /** How many files were scanned. */
  readonly files: number
  /** Files that were skipped, and why. */
  readonly skipped: readonly { readonly file: string; readonly why: string }[]
}

/** What moving a finding would do. */
export interface MoveView {
  /** Names this plan when it is applied. */
  readonly id: string
  readonly stage: string
  readonly diffs: readonly DiffView[]
  /** Places that stay as they are, and why. */
  readonly left: readonly { readonly place: string; readonly why: string }[]
  /** True where something moves at all. */
  readonly canApply: boolean
}

/** An answer that says what is wrong. */
export interface Refusal {
  readonly problems: readonly ProblemView[]
}
