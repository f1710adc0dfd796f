import type { Command } from 'commander'

/** What the file of a command exports. */
export interface CommandModule {
  /**
   * Gives the command its arguments and says what it does.
   *
   * @param command an empty command that bears its name already
   * @param exitWith is told the code to end with
   * @param all every command there is, for one that tells of the others
   */
  readonly configure: (command: Command, exitWith: (code: number) => void, all: readonly CommandEntry[]) => void
}

/** A command: its name, what it is for, how it is called, and its file, which is loaded only when it is called. */
export interface CommandEntry {
  readonly name: string
  readonly summary: string
  /** Calls, each with what it does. */
  readonly examples: readonly (readonly [call: string, what: string])[]
  /** What it does at the root of a repository with packages; left out for a command that is about one project in any case. */
  readonly packages?: PackagesOf
  readonly load: () => Promise<CommandModule>
}

/** How a command works on the packages of a repository. */
export interface PackagesOf {
  /** On those with a definition, on all, or on one that has to be clear. */
  readonly works: 'defined' | 'all' | 'one'
  /** Arguments that name files: the command is about those then, and not about packages. */
  readonly files?: RegExp
  /** An option that names a setting: with it, the command is about the one package that declares that. */
  readonly about?: string
  /** Options with which it is about the whole repository, and called once. */
  readonly once?: readonly string[]
  /** What is done once for all packages: `apart` leaves it out of the call for one, and `together` names the directories of all. */
  readonly shared?: { readonly apart: string; readonly together: string }
}
