// node scripts/programs.mjs jq zsh: installs programs where that is possible, which are named as in machine.mjs. For steps.mjs.
import { installPrograms } from './machine.mjs'

installPrograms(process.argv.slice(2))
