/** What changes in one file, as a unified diff (POSIX `diff -u`). */
export interface DiffView {
  readonly file: string
  /** True for a file that does not exist yet. */
  readonly isNew: boolean
  readonly lines: readonly DiffLine[]
}

/** A line of a diff. */
export interface DiffLine {
  /** `place` is a line that says where the next ones are. */
  readonly kind: 'added' | 'removed' | 'same' | 'place'
  /** The line without the sign in front of it, safe to show. */
  readonly text: string
}
