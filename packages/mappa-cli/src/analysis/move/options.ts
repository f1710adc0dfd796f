import type { Definition } from '@mappa/core/definition/definition'
import type { Finding } from '../survey/findings.ts'
import type { AccessStyle } from './access-expression.ts'

/** The project that findings move in. */
export interface MoveProject {
  readonly root: string
  /** The definition, relative to the root; it need not exist yet. */
  readonly definitionFile: string
  /** `null` where there is none yet. */
  readonly definition: Definition | null
}

/** What a person asked for, beside what is proposed. */
export interface MoveOverrides {
  /** The path of each finding's setting, where another is wanted. */
  readonly paths: ReadonlyMap<Finding, string>
  readonly descriptions: ReadonlyMap<Finding, string>
  /** All findings, those that stay as well. */
  readonly surveyed: readonly Finding[]
}

/** What is to be done with findings. */
export interface MoveOptions extends MoveOverrides {
  /** The stage that the values in the code are for. */
  readonly stage: string
  readonly as: AccessStyle
  /** The files and directories that findings were asked for in, by absolute paths; empty for the whole project. */
  readonly asked: readonly string[]
  /** True to make templates of files that can't read variables. */
  readonly templates: boolean
  /** True to take away the outputs of notebooks that show what moves. */
  readonly clearOutputs: boolean
}
