import { spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const EXAMPLES = join(import.meta.dirname, '..')
const COMMAND = join(EXAMPLES, '../packages/mappa-cli/dist/main.js')
const { PATH } = process.env

function title(text: string): void {
  console.log(`\n== ${text}\n`)
}

/** Runs a program where somebody would, and ends the demo where it does not end as it should. */
function run(shown: string, program: string, words: readonly string[], status: number, input?: string): void {
  console.log(`$ ${shown}`)
  const outcome = spawnSync(program, words, {
    cwd: directory,
    env: { PATH, HOME: root },
    stdio: [input === undefined ? 'ignore' : 'pipe', 'inherit', 'inherit'],
    input,
  })
  if (outcome.status !== status) throw new Error(`${shown} ended with ${outcome.status}, not with ${status}`)
}

function mappa(words: readonly string[], status = 0, input?: string): void {
  run(`mappa ${words.join(' ')}`, process.execPath, [COMMAND, ...words], status, input)
}

/** Prints some lines of a file that a command has written. */
function show(file: string, from: string, count: number): void {
  const lines = readFileSync(join(directory, file), 'utf8').split('\n')
  const start = lines.findIndex((line) => line.includes(from))
  console.log(`\n${file}, from line ${start + 1}:`)
  for (const line of lines.slice(start, start + count)) console.log(`  ${line}`)
}

const root = mkdtempSync(join(tmpdir(), 'fernhollow-'))
let directory = join(root, 'deploy')
try {
  for (const example of ['deploy', 'rain-watch'])
    cpSync(join(EXAMPLES, example), join(root, example), {
      recursive: true,
      filter: (path) => !/demo\.ts$|\.local$/.test(path),
    })
  spawnSync('git', ['init', '-q'], { cwd: root })

  title('Deployment files for three stages, from one template; nobody has set the keys yet')
  mappa(['fill', 'deployment.template.yaml', '--all', '--out', 'run/{name}.{stage}.{extension}', '--with-secrets'], 1)

  title('The keys: a drill key by mistake in production, too')
  mappa(['set', 'DOME_KEY', '--stage', 'development', '--random', '24'])
  mappa(['set', 'DOME_KEY', '--stage', 'staging'], 0, 'drill-of-the-rehearsal-dome-0117')
  run('cp .env.staging.local .env.production.local', 'cp', ['.env.staging.local', '.env.production.local'], 0)

  title('Production beside staging: the keys have the same mark, and a drill key never opens the sky')
  mappa(['compare', 'staging', 'production'], 1)
  mappa(['set', 'DOME_KEY', '--stage', 'production'], 0, 'open-the-sky-over-fernhollow-2218')
  mappa(['compare', 'staging', 'production', '--only', 'different'])

  title('The deployment files, and the configuration of a code generator')
  mappa(['fill', 'deployment.template.yaml', '--all', '--out', 'run/{name}.{stage}.{extension}', '--with-secrets'])
  show('run/deployment.production.yaml', 'containers:', 17)
  mappa(['fill', 'generator.template.yaml', '--stage', 'staging'])

  title('For Docker, Kubernetes and a shell; secrets only where they are asked for')
  mappa(['export', '--as', 'docker', '--stage', 'staging', '--with-secrets', '--out', 'run/dome-api.env'])
  mappa(['export', '--as', 'kubernetes', '--stage', 'production', '--config-map', 'dome-api'])

  title('A program in Python: not started without its key, then started, and its output masked')
  directory = join(root, 'rain-watch')
  mappa(['run', '--', 'python3', 'rain_watch.py'], 78)
  mappa(['set', 'RAIN_KEY', '--stage', 'development', '--random', '24'])
  mappa(['run', '--', 'python3', 'rain_watch.py'])
  mappa(['run', '--mask-output', '--', 'python3', '-c', 'import os; print("a slip:", os.environ["RAIN_KEY"])'])
} finally {
  rmSync(root, { recursive: true, force: true })
}
console.log('\nThat was all. Nothing is left behind.')
