/** The words of a command, without those that choose packages. */
export interface PackageWords {
  /** The patterns of `--package`; empty for all packages. */
  readonly patterns: readonly string[]
  readonly rest: readonly string[]
}

/** Takes `--package PATTERN` and `--package=PATTERN` out of the words of a command. Behind `--` nothing is an option. */
export function withoutPackages(words: readonly string[]): PackageWords {
  const end = words.indexOf('--')
  const options = words.slice(0, end < 0 ? words.length : end)
  const patterns: string[] = []
  const rest: string[] = []
  for (let at = 0; at < options.length; at++) {
    const word = options[at]!
    if (word.startsWith('--package=')) patterns.push(word.slice('--package='.length))
    else if (word === '--package' && at + 1 < options.length) patterns.push(options[++at]!)
    else rest.push(word)
  }
  return { patterns, rest: end < 0 ? rest : [...rest, ...words.slice(end)] }
}

/** True where the words of a command name an option. */
export function hasOption(words: readonly string[], ...names: readonly string[]): boolean {
  const end = words.indexOf('--')
  const options = words.slice(0, end < 0 ? words.length : end)
  return options.some((word) => names.some((name) => word === name || word.startsWith(`${name}=`)))
}

/** The value of an option among the words of a command; `null` where it is not there. */
export function optionValue(words: readonly string[], name: string): string | null {
  const end = words.indexOf('--')
  const options = words.slice(0, end < 0 ? words.length : end)
  const at = options.findIndex((word) => word === name || word.startsWith(`${name}=`))
  if (at < 0 || name === '') return null
  return options[at] === name ? (options[at + 1] ?? '') : options[at]!.slice(name.length + 1)
}
