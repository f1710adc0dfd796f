import { applyFilter } from '@mappa/core/template/filters'
import { type ExportedValue, type Format, refuseNul } from '../format.ts'

/**
 * Names that dash, bash, busybox sh or zsh keep for themselves: they refuse to set them, or make something else of the value. Found by
 * setting every variable that bash and zsh have; and those that change how the file itself is read.
 */
const OWN_NAMES: ReadonlySet<string> = new Set(
  `ARGC BASHOPTS BASHPID BASH_ALIASES BASH_ARGC BASH_ARGV BASH_CMDS BASH_COMMAND BASH_LINENO BASH_SOURCE BASH_SUBSHELL BASH_VERSINFO
  COLUMNS DIRSTACK EGID EPOCHREALTIME EPOCHSECONDS EUID FUNCNEST GID GROUPS HISTCHARS HISTCMD HISTSIZE KEYBOARD_HACK KEYTIMEOUT LINENO
  LINES LISTMAX MAILCHECK OPTIND PPID RANDOM SAVEHIST SECONDS SHELLOPTS SHLVL SRANDOM TRY_BLOCK_ERROR TRY_BLOCK_INTERRUPT TTYIDLE UID
  USERNAME WATCH ZSH_EVAL_CONTEXT ZSH_SUBSHELL _ IFS LC_ALL LC_CTYPE PWD OLDPWD`.split(/\s+/),
)

/** Exports for a POSIX shell, to be sourced: `. ./FILE`. */
export const sh: Format = {
  name: 'sh',
  summary: 'exports for a POSIX shell, to be sourced',
  refuse: (value) => refuseNul(value) ?? refuseName(value),
  write: (values) =>
    values.map(({ name, text }) => `export ${name}=${applyFilter('sh', text, { before: '' })}\n`).join(''),
}

function refuseName({ name }: ExportedValue): string | null {
  return OWN_NAMES.has(name) ? 'shells keep a variable of this name for themselves' : null
}
