import type { Definition } from '@mappa/core/definition/definition'

/** Finds out which settings of a definition no source reads, by path or by name. */
export class UsageCheck {
  private readonly open: Map<string, { last: string; pattern: RegExp }>

  constructor(definition: Definition | null) {
    this.open = new Map(
      (definition?.settings ?? []).map(({ name, keys }) => {
        const last = keys.at(-1)!
        const group = keys.at(-2)
        // `settings.dome.key`, or `{ key } = settings.dome`.
        const path =
          group === undefined
            ? `\\b${last}\\b`
            : `\\b${group}\\b[\\s\\S]{0,200}?\\b${last}\\b|\\b${last}\\b[\\s\\S]{0,200}?\\b${group}\\b`
        return [name, { last, pattern: new RegExp(path) }]
      }),
    )
  }

  /** True while a setting is left that nothing was seen to read. */
  get isOpen(): boolean {
    return this.open.size > 0
  }

  /** Looks at the text of a source file. */
  look(text: string): void {
    for (const [name, { last, pattern }] of this.open) {
      if (text.includes(last) && pattern.test(text)) this.open.delete(name)
    }
  }

  /** The names of settings that no text reads, by path or by name. */
  listUnread(readNames: ReadonlySet<string>): string[] {
    return [...this.open.keys()].filter((name) => !readNames.has(name))
  }
}
