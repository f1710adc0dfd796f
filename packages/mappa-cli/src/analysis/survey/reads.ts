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
  /** The places at which the code goes on with a value that nobody declares, unless a comment says that this is meant. */
  readonly faults: readonly SourcePlace[]
}

const OF_SYSTEM =
  /^(NODE_ENV|NODE_\w+|PATH|HOME|USER|LOGNAME|SHELL|PWD|OLDPWD|TERM|LANG|LC_\w+|TZ|TMPDIR|TEMP|TMP|CI|NO_COLOR|FORCE_COLOR|COLORTERM|DISPLAY|EDITOR|HOSTNAME|XDG_\w+|npm_\w+|GIT_\w+|DEBUG|MODE|DEV|PROD|SSR|BASE_URL|MAPPA_STAGE|MAPPA_BUILD_STAGE|MAPPA_FILLED|BASH_\w+|SHLVL|IFS|UID|RANDOM|SECONDS|LINENO|EUID|FUNCNAME|OSTYPE|COMSPEC|APPDATA|LOCALAPPDATA|USERPROFILE|SystemRoot|ProgramFiles)$/i

/** Puts the reads of each variable together and holds them against the definition, by name. */
export function listReads(reads: readonly SourceRead[], definition: Definition | null): readonly Read[] {
  const names = new Set(definition?.settings.map((each) => each.name))
  const nearest = makeClosestMatch(names)
  // Code that reads a former name reads nothing, once the files have the new one.
  const former = new Map(definition?.settings.flatMap((each) => each.formerly.map((old) => [old, each.name] as const)))
  const byName = new Map<string, SourceRead[]>()
  const needed = new Set(reads.filter((each) => each.needed).map(({ name }) => name))
  const takenAs = keepOnlyOne(reads.flatMap((each) => (each.takenAs === undefined ? [] : [[each.name, each.takenAs]])))
  const plain = new Set(reads.filter((each) => !each.built).map(({ name }) => name))
  for (const each of reads) {
    const same = byName.get(each.name)
    if (same === undefined) byName.set(each.name, [each])
    else same.push(each)
  }
  return [...byName]
    .map(([name, own]) => {
      const declared = names.has(name)
      const ofSystem = OF_SYSTEM.test(name)
      const near = declared ? null : (former.get(name) ?? nearest(name))
      const isFault = ({ needed, isAllowed }: SourceRead) => (needed || near !== null) && isAllowed !== true
      return {
        name,
        places: own.map(toPlace),
        needed: needed.has(name),
        takenAs: takenAs.get(name) ?? null,
        built: !plain.has(name),
        declared,
        near,
        ofSystem,
        faults: definition === null || declared || ofSystem ? [] : own.filter(isFault).map(toPlace),
      }
    })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
}

const toPlace = ({ file, line, column }: SourceRead): SourcePlace => ({ file, line, column })

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
