import type { MoveSource, RewrittenSource } from './source-changes.ts'
import type { MovedFinding } from './targets.ts'

/** A file that becomes a template, by paths relative to the root. */
export interface TemplateChange {
  /** What `mappa fill` writes from now on. */
  readonly file: string
  readonly template: string
  /** True where secrets are filled in, so that git has to ignore the file. */
  readonly hasSecrets: boolean
}

/** The files that become templates. */
export function planTemplates(
  sources: readonly MoveSource[],
  rewritten: readonly RewrittenSource[],
  moved: readonly MovedFinding[],
): readonly TemplateChange[] {
  const made = new Set(rewritten.map(({ file }) => file))
  return sources.flatMap(({ file, driver: { template } }) => {
    if (template === null || !made.has(template)) return []
    const hasSecrets = moved.some(
      ({ declaration, places }) => declaration.secret && places.some((each) => each.file === file),
    )
    return [{ file, template, hasSecrets }]
  })
}
