/** The command where nothing else of the repository is to be found. */
export { copyCommand } from '../../scripts/command-apart.mjs'
