import { fs, path } from '@mappa/node/fs/builtin'
import { isInside, toRelativePath } from '@mappa/node/fs/places'

/** What the patterns of a repository match. Paths are relative to its root, with `/` between directories. */
export interface PatternMatches {
  /** Directories, each once by its real place. */
  readonly directories: readonly string[]
  /** Patterns and links that lead out of the repository; nothing there was read. */
  readonly outside: readonly string[]
  /** Patterns that no directory matches. */
  readonly unmatched: readonly string[]
  /** Directories that can't be read. */
  readonly unreadable: readonly string[]
}

/** Of a pattern with braces, no more forms are tried. */
const MAX_FORMS = 256
/** Directories that no package of a repository is in. */
const NO_PACKAGES: ReadonlySet<string> = new Set(['node_modules', '.git'])

/** A pattern, as the names of directories from the root. `**` stands for any number of them. */
interface Form {
  readonly pattern: string
  readonly names: readonly string[]
}

/** A form of which the first names have matched. */
interface State {
  readonly form: Form
  readonly at: number
}

/**
 * Finds the directories that patterns of workspaces match: `*`, `?`, `[abc]`, `{a,b}`, `**`, and `!` before what is left out. Patterns can be a
 * stranger's: each directory of the repository is read once at most, none outside of it, and a name is compared in linear steps.
 */
export function directoriesMatching(root: string, patterns: readonly string[]): PatternMatches {
  const outside = patterns.filter(leadsOut)
  const usable = patterns.filter((each) => !leadsOut(each))
  const isLeftOut = (pattern: string) => pattern.startsWith('!')
  const forms = usable.flatMap((pattern) => listForms(pattern))
  const walk = new Walk(root)
  walk.visit('', withSkips(forms.map((form) => ({ form, at: 0 }))))
  const matched = new Set([...walk.found.values()].flatMap((each) => [...each]))
  return {
    directories: [...walk.found]
      .filter(([, by]) => ![...by].some(isLeftOut))
      .map(([directory]) => directory)
      .sort(),
    outside: [...outside, ...walk.outside].sort(),
    unmatched: usable.filter((each) => !isLeftOut(each) && !matched.has(each)),
    unreadable: walk.unreadable,
  }
}

/** One walk through a repository, led by what could still match. */
class Walk {
  /** The patterns that match, by directory. */
  readonly found = new Map<string, Set<string>>()
  readonly outside = new Set<string>()
  readonly unreadable: string[] = []
  readonly #root: string
  readonly #top: string
  readonly #visited = new Set<string>()

  constructor(root: string) {
    this.#root = root
    this.#top = fs.realpathSync(root)
  }

  /** @param behindLink true for a directory that a link leads to, in which no more links are followed */
  visit(directory: string, states: readonly State[], behindLink = false): void {
    const real = this.#realPlace(directory)
    const visit = `${real}\0${states.map(getKey).join('\0')}`
    if (real === null || this.#visited.has(visit)) return
    this.#visited.add(visit)
    const matched = states.filter(isWhole).map(({ form }) => form.pattern)
    if (matched.length > 0) this.found.set(real, new Set([...(this.found.get(real) ?? []), ...matched]))
    if (states.every(isWhole)) return
    for (const { name, isLink } of this.#findNames(directory)) {
      const next = advanceStates(states, name)
      if (next.length === 0 || (isLink && behindLink)) continue
      this.visit(directory === '' ? name : `${directory}/${name}`, next, behindLink || isLink)
    }
  }

  /** Where a directory really is; `null` outside of the repository. */
  #realPlace(directory: string): string | null {
    const real = fs.realpathSync(path.join(this.#root, directory))
    if (isInside(real, this.#top)) return toRelativePath(this.#top, real)
    this.outside.add(directory)
    return null
  }

  #findNames(directory: string): { readonly name: string; readonly isLink: boolean }[] {
    try {
      return fs
        .readdirSync(path.join(this.#root, directory), { withFileTypes: true })
        .map((entry) => ({ name: entry.name, isLink: entry.isSymbolicLink(), isDirectory: entry.isDirectory() }))
        .filter(({ name, isLink, isDirectory }) => {
          if (NO_PACKAGES.has(name)) return false
          if (!isLink) return isDirectory
          return fs.statSync(path.join(this.#root, directory, name), { throwIfNoEntry: false })?.isDirectory() === true
        })
    } catch {
      this.unreadable.push(directory === '' ? '.' : directory)
      return []
    }
  }
}

const isWhole = ({ form, at }: State) => at === form.names.length
const getKey = ({ form, at }: State) => [form.pattern, ...form.names, at].join('\0')

/** Also those that match when `**` stands for nothing. */
function withSkips(states: readonly State[]): readonly State[] {
  const all = [...states]
  for (const { form, at } of all) if (form.names[at] === '**') all.push({ form, at: at + 1 })
  return all
}

function advanceStates(states: readonly State[], name: string): readonly State[] {
  const next = states.flatMap(({ form, at }) => {
    const wanted = form.names[at]
    if (wanted === undefined) return []
    if (wanted === '**') return name.startsWith('.') ? [] : [{ form, at }]
    return isMatch(wanted, name) ? [{ form, at: at + 1 }] : []
  })
  const seen = new Set<string>()
  return withSkips(next).filter((each) => !seen.has(getKey(each)) && seen.add(getKey(each)))
}

const leadsOut = (pattern: string) => /^(?:\/|\.\.(?:\/|$)|[A-Za-z]:)/.test(normal(pattern))

/** A pattern without what leaves it out, and without detours. */
function normal(pattern: string): string {
  return path.posix.normalize(pattern.replace(/^!+/, '').replaceAll('\\', '/').trim()).replace(/\/+$/, '')
}

function listForms(pattern: string): readonly Form[] {
  return expandBraces(normal(pattern)).map((text) => {
    const names = text.split('/').filter((name) => name !== '' && name !== '.')
    // Several in a row mean no more than one.
    return { pattern, names: names.filter((name, at) => name !== '**' || names[at - 1] !== '**') }
  })
}

/** `{a,b}/c` as `a/c` and `b/c`. Braces that are never closed mean themselves. */
function expandBraces(pattern: string): readonly string[] {
  const done: string[] = []
  const open = [pattern]
  while (open.length > 0 && done.length + open.length <= MAX_FORMS) {
    const text = open.shift()!
    const innermost = /\{([^{}]*,[^{}]*)\}/.exec(text)
    if (innermost === null) done.push(text)
    else {
      const [whole, choices] = innermost as unknown as [string, string]
      const [before, after] = [text.slice(0, innermost.index), text.slice(innermost.index + whole.length)]
      open.push(...choices.split(',').map((choice) => before + choice + after))
    }
  }
  return open.length === 0 ? done : []
}

/** Compares a name with `*`, `?` and `[abc]`, going back to the last `*` only. A name that begins with a dot has to be spelled out. */
function isMatch(wanted: string, name: string): boolean {
  if (name.startsWith('.') && !wanted.startsWith('.')) return false
  const parts = wanted.match(/\*+|\?|\[!?\]?[^\]]*\]|./gsu) ?? []
  const letters = [...name]
  let [part, letter, star, from] = [0, 0, -1, 0]
  while (letter < letters.length) {
    const one = parts[part]
    if (one?.startsWith('*') === true) [star, from, part] = [part, letter, part + 1]
    else if (one !== undefined && isLetter(one, letters[letter]!)) [part, letter] = [part + 1, letter + 1]
    else if (star >= 0) [part, from, letter] = [star + 1, from + 1, from + 1]
    else return false
  }
  return parts.slice(part).every((each) => each.startsWith('*'))
}

function isLetter(part: string, letter: string): boolean {
  if (part === '?') return true
  const set = /^\[(!?)(.+)\]$/su.exec(part)
  if (set === null) return part === letter
  const ranges = set[2]!.match(/.-.|./gsu) ?? []
  const isIn = ranges.some((each) => {
    const [low, , high] = [...each]
    return high === undefined ? each === letter : low! <= letter && letter <= high
  })
  return isIn !== (set[1] === '!')
}
