// node scripts/programs.mjs jq zsh: installs programs where that is possible, which are named as in machine.mjs; --list names all of
// them. For steps.mjs and for workflows.
import { ALL_PROGRAMS, installPrograms } from './machine.mjs'

const words = process.argv.slice(2)
if (words[0] === '--list') console.log(ALL_PROGRAMS.join(' '))
else installPrograms(words)
