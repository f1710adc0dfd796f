import type { Command } from 'commander'

/** What the file of a command exports. */
export interface CommandModule {
  /**
   * Gives the command its arguments and says what it does.
   *
   * @param command an empty command that bears its name already
   * @param exitWith is told the code to end with
   */
  readonly configure: (command: Command, exitWith: (code: number) => void) => void
}

/** Every command: its name, what it is for, and its file, which is loaded only when it is called. */
export const commands: readonly { name: string; summary: string; load: () => Promise<CommandModule> }[] = [
  { name: 'init', summary: 'set a project up', load: () => import('./init.ts') },
  { name: 'survey', summary: 'find settings and keys that still stand in the code', load: () => import('./survey.ts') },
  { name: 'move', summary: 'move settings and keys out of the code', load: () => import('./move.ts') },
  { name: 'check', summary: 'check the settings of one stage, or of all', load: () => import('./check.ts') },
  { name: 'show', summary: 'show every value and where it comes from', load: () => import('./show.ts') },
  { name: 'set', summary: 'write a value into a layer without showing it', load: () => import('./set.ts') },
  { name: 'write', summary: 'write what derives from the definition', load: () => import('./write.ts') },
  { name: 'guard', summary: 'look for secrets where they must not be', load: () => import('./guard.ts') },
]
