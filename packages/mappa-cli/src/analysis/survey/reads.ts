import type { Definition } from '@mappa/core/definition/definition'
import { makeClosestMatch } from '@mappa/core/text/closest-match'
import type { SourceLiteral, SourcePlace, SourceRead, TakenAs } from '@mappa/source/source'

/** A variable that sources read. */
export interface Read {
  readonly name: string
  readonly places: readonly SourcePlace[]
  /** True where some code needs it to be there. */
  readonly needed: boolean
  /** What the code makes of the text; `null` where nothing is to be seen, or each place something else. */
  readonly takenAs: TakenAs | null
  /** True where it is read as part of what a bundler builds, and nowhere else. */
  readonly built: boolean
  /** True where the definition has it. */
  readonly declared: boolean
  /** The setting that was probably meant, where it is not declared. */
  readonly near: string | null
  /** True for variables that systems and runtimes set themselves. */
  readonly ofSystem: boolean
}

const OF_SYSTEM =
  /^(NODE_ENV|NODE_\w+|PATH|HOME|USER|LOGNAME|SHELL|PWD|OLDPWD|TERM|LANG|LC_\w+|TZ|TMPDIR|TEMP|TMP|CI|NO_COLOR|FORCE_COLOR|COLORTERM|DISPLAY|EDITOR|HOSTNAME|XDG_\w+|npm_\w+|GIT_\w+|DEBUG|MODE|DEV|PROD|SSR|BASE_URL|MAPPA_STAGE|MAPPA_FILLED|BASH_\w+|SHLVL|IFS|UID|RANDOM|SECONDS|LINENO|EUID|FUNCNAME|OSTYPE|COMSPEC|APPDATA|LOCALAPPDATA|USERPROFILE|SystemRoot|ProgramFiles)$/i

/** Puts the reads of each variable together and holds them against the definition, by name. */
export function listReads(reads: readonly SourceRead[], definition: Definition | null): readonly Read[] {
  const names = new Set(definition?.settings.map((each) => each.name))
  const nearest = makeClosestMatch(names)
  // Code that reads a former name reads nothing, once the files have the new one.
  const former = new Map(definition?.settings.flatMap((each) => each.formerly.map((old) => [old, each.name] as const)))
  const byName = new Map<string, SourcePlace[]>()
  const needed = new Set(reads.filter((each) => each.needed).map(({ name }) => name))
  const takenAs = keepOnlyOne(reads.flatMap((each) => (each.takenAs === undefined ? [] : [[each.name, each.takenAs]])))
  const plain = new Set(reads.filter((each) => !each.built).map(({ name }) => name))
  for (const { name, file, line, column } of reads) {
    const places = byName.get(name)
    if (places === undefined) byName.set(name, [{ file, line, column }])
    else places.push({ file, line, column })
  }
  return [...byName]
    .map(([name, places]) => {
      const declared = names.has(name)
      return {
        name,
        places,
        needed: needed.has(name),
        takenAs: takenAs.get(name) ?? null,
        built: !plain.has(name),
        declared,
        near: declared ? null : (former.get(name) ?? nearest(name)),
        ofSystem: OF_SYSTEM.test(name),
      }
    })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
}

/** What the code takes for variables that have no value; those for which it takes different things in different places are left out. */
export function listFallbacks(fallbacks: readonly SourceLiteral[]): ReadonlyMap<string, string> {
  return keepOnlyOne(fallbacks.map(({ variable, value }) => [variable!, value]))
}

/** What stands beside each name, where that is always the same. */
function keepOnlyOne<Value>(pairs: readonly (readonly [name: string, value: Value])[]): ReadonlyMap<string, Value> {
  const found = new Map<string, Set<Value>>()
  for (const [name, value] of pairs) found.set(name, (found.get(name) ?? new Set()).add(value))
  return new Map([...found].flatMap(([name, values]) => (values.size === 1 ? [[name, [...values][0]!] as const] : [])))
}
