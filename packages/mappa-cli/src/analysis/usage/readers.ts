import type { Declaration, Definition } from '@mappa/core/definition/definition'
import { toRelativePath } from '@mappa/node/fs/places'
import { readLimited, type Skipped } from '@mappa/node/fs/read-file'
import { getLanguage } from '@mappa/source'
import { listSourceFiles } from '../survey/files.ts'
import { scanText } from '../survey/scan-file.ts'

/** A place in the code that reads a setting; line and columns count from 1, in UTF-16 code units. */
export interface Reader {
  /** The path of the setting. */
  readonly setting: string
  readonly file: string
  readonly line: number
  readonly column: number
  /** Behind the last character. */
  readonly endColumn: number
  /** What stands there: `settings.dome.key`, `DOME_KEY`. */
  readonly text: string
  /** By its variable name, or by its path in code. */
  readonly by: 'name' | 'path'
}

/** Larger files are made by programs, in bytes. */
const MAX_FILE_BYTES = 1024 * 1024

/** `settings.dome.key`, also over several lines; what stands before it is no part of a longer name. */
const CHAIN = /(?<![\w$.#])[A-Za-z_$][\w$]*(?:\s*\??\.\s*[A-Za-z_$][\w$]*)+/g
/** What a program calls its settings, where a setting is in no group. */
const ROOT_NAME = /^(settings|config|configuration|options)$/i

/** The readers in the sources of a project, as far as they were read. */
export interface Readers {
  readonly readers: readonly Reader[]
  readonly skipped: readonly Skipped[]
}

/** Finds the places that read the settings of a definition. */
export class ReaderSearch {
  readonly #byName: ReadonlyMap<string, Declaration>
  readonly #byPath: ReadonlyMap<string, Declaration>

  constructor({ settings }: Definition) {
    this.#byName = new Map(settings.flatMap((each) => [each.name, ...each.formerly].map((name) => [name, each])))
    this.#byPath = new Map(settings.map((each) => [each.path, each]))
  }

  /**
   * The readers in one source, in the order of the text.
   *
   * @param file the path to name in places; its ending tells the language
   */
  in(text: string, file: string): readonly Reader[] {
    const language = getLanguage(file)
    if (language === null || text.includes('\0') || !this.#mayRead(text)) return []
    const lines = text.split('\n')
    const { reads } = scanText(text, file, language)
    const byName = reads.flatMap(({ name, line, column }): Reader[] => {
      const setting = this.#byName.get(name)?.path
      const at = (lines[line - 1] ?? '').indexOf(name, column - 1)
      if (setting === undefined || at < 0) return []
      return [{ setting, file, line, column: at + 1, endColumn: at + 1 + name.length, text: name, by: 'name' }]
    })
    const byPath = language.readsByPath === true ? this.#findChains(lines, file) : []
    return [...byName, ...byPath].sort((a, b) => a.line - b.line || a.column - b.column)
  }

  /**
   * The readers in all sources of a project.
   *
   * @param open gives the text of a file that an editor has open; `null` for any other
   */
  below(root: string, definitionFile: string | null, open: (file: string) => string | null = () => null): Readers {
    const skipped: Skipped[] = []
    const readers = listSourceFiles(root, [root]).files.flatMap((whole) => {
      if (whole === definitionFile || getLanguage(whole) === null) return []
      const file = toRelativePath(root, whole)
      const own = open(whole)
      if (own !== null) return this.in(own, file)
      const read = readLimited(whole, MAX_FILE_BYTES)
      if (read.skipped === null) return this.in(read.bytes.toString('utf8'), file)
      skipped.push({ file, why: read.skipped })
      return []
    })
    return { readers, skipped }
  }

  /** A quick look: most sources name no setting at all. */
  #mayRead(text: string): boolean {
    for (const [name, { keys }] of this.#byName) if (text.includes(name) || text.includes(keys.at(-1)!)) return true
    return false
  }

  #findChains(lines: readonly string[], file: string): Reader[] {
    return lines.flatMap((line, index) => {
      if (/^\s*(\/\/|\*|\/\*)/.test(line)) return []
      return [...line.matchAll(CHAIN)].flatMap((match): Reader[] => {
        const found = this.#toSetting(match[0])
        if (found === null) return []
        const column = match.index + 1
        return [
          {
            setting: found.path,
            file,
            line: index + 1,
            column,
            endColumn: column + found.text.length,
            text: found.text,
            by: 'path',
          },
        ]
      })
    })
  }

  /** The setting that a chain of members leads to, and the part of the chain that does. */
  #toSetting(chain: string): { readonly path: string; readonly text: string } | null {
    const members = [...chain.matchAll(/[\w$]+/g)]
    for (let last = members.length - 1; last > 0; last--)
      for (let first = 1; first <= last; first++) {
        const keys = members.slice(first, last + 1).map(([key]) => key)
        const declaration = this.#byPath.get(keys.join('.'))
        if (declaration === undefined || (keys.length === 1 && !ROOT_NAME.test(members[first - 1]![0]))) continue
        const end = members[last]!.index + members[last]![0].length
        return { path: declaration.path, text: chain.slice(0, end) }
      }
    return null
  }
}
