/** A program that tests need, by the name of the package of Debian that brings it. */
export type ProgramName =
  | 'chromium-headless-shell'
  | 'dash'
  | 'busybox'
  | 'zsh'
  | 'fish'
  | 'neovim'
  | 'python3'
  | 'php-cli'
  | 'ruby'
  | 'golang-go'
  | 'etcd-server'
  | 'openssl'
  | 'jq'
  | 'python3-yaml'
export const ALL_PROGRAMS: readonly ProgramName[]
export function findChromium(): string | null
export function missingPrograms(names: readonly ProgramName[]): readonly ProgramName[]
export function installPrograms(names: readonly ProgramName[]): void
export function describeProgram(name: ProgramName): string
