import type { Edit, EditPreview, EditSaved, MoveView, PageState, SurveyView } from '../../views/page.ts'
import type { Story } from '../../views/story.ts'

/** Where the page gets what it shows. What a source can't do is `null`, and the page does not offer it. */
export interface PageSource {
  readonly state: () => Promise<PageState>
  readonly story: (setting: string) => Promise<Story>
  /**
   * Tells of changes.
   *
   * @param changed is called with the number of the change
   * @param lost is called with true when nobody can be asked any more, and with false when somebody can be again
   * @returns a function that stops watching
   */
  readonly watch: (changed: (revision: number) => void, lost: (isLost: boolean) => void) => () => void
  /** True to mark what has changed since the page was opened. */
  readonly marksChanges: boolean
  readonly editing: EditingSource | null
  readonly code: CodeSource | null
  /** Opens a file in the editor. */
  readonly open: ((file: string, line: number) => Promise<boolean>) | null
  /** Makes a link for another window. */
  readonly newLink: (() => Promise<string>) | null
}

/** Writes values. */
export interface EditingSource {
  readonly preview: (edit: Edit) => Promise<EditPreview>
  readonly save: (edit: Edit, version: string) => Promise<EditSaved>
}

/** Looks at the code. */
export interface CodeSource {
  readonly survey: () => Promise<SurveyView>
  readonly planMove: (finding: string, stage: string) => Promise<MoveView>
  readonly applyMove: (id: string) => Promise<readonly string[]>
}
