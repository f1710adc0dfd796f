/** The shells that words can be completed in. */
export const SHELLS = ['bash', 'zsh', 'fish'] as const

/** One of them. */
export type Shell = (typeof SHELLS)[number]

/** Each asks the command that is typed, so that a project's own version answers. Where it has nothing to say, files are completed. */
const SCRIPTS: Readonly<Record<Shell, string>> = {
  bash: `# Completion of mappa for bash.
_mappa() {
  local line
  COMPREPLY=()
  while IFS= read -r line; do
    COMPREPLY+=("\${line%%$'\\t'*}")
  done < <("$1" completion words -- "\${COMP_WORDS[@]:1:COMP_CWORD}" 2>/dev/null)
}
complete -o default -F _mappa mappa mappa-cli
`,
  zsh: `#compdef mappa mappa-cli
# Completion of mappa for zsh.
_mappa() {
  local line
  local -a found
  for line in "\${(@f)$("\${words[1]}" completion words -- "\${(@)words[2,CURRENT]}" 2>/dev/null)}"; do
    [[ -n $line ]] && found+=("\${\${line%%$'\\t'*}//:/\\\\:}:\${line#*$'\\t'}")
  done
  if (( $#found )); then
    _describe 'mappa' found
  else
    _files
  fi
}
compdef _mappa mappa mappa-cli
`,
  fish: `# Completion of mappa for fish.
function __mappa_words
    set -l words (commandline -opc)
    set -l current (commandline -ct)
    $words[1] completion words -- $words[2..-1] "$current" 2>/dev/null
end
complete -c mappa -a '(__mappa_words)'
complete -c mappa-cli -a '(__mappa_words)'
`,
}

/** What a shell has to read to complete the words of this command. */
export function completionScript(shell: Shell): string {
  return SCRIPTS[shell]
}
