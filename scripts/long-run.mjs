// node scripts/long-run.mjs FILE WORDS: installs and builds what is missing, then runs a file of TypeScript.
import { setUp, step } from './steps.mjs'

const [file, ...words] = process.argv.slice(2)
setUp({ withCompat: true })
step(`Running ${file}`, process.execPath, ['--import', 'tsx', file, ...words])
