// node scripts/programs.mjs jq zsh: makes sure that programs are there, which are named as in machine.mjs. For steps.mjs.
import { ensurePrograms } from './machine.mjs'

ensurePrograms(process.argv.slice(2))
