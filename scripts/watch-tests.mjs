// npm run test:watch [-- PART]: builds again when a source changes, and runs the tests whose path contains PART.
import { spawn } from 'node:child_process'
import { watch } from 'node:fs'
import { join } from 'node:path'
import { root } from './steps.mjs'

const QUIET_MS = 300
const script = join(root, 'scripts/test.mjs')
let child
let timer

function start() {
  child?.kill()
  child = spawn(process.execPath, [script, ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' })
}

for (const directory of [...sourceDirectories, ...testDirectories]) {
  watch(join(root, directory), { recursive: true }, () => {
    clearTimeout(timer)
    timer = setTimeout(start, QUIET_MS)
  })
}
start()
