// Draws docs/screenshots from the demo data, in a real terminal window and in Chromium. Needs Xvfb, xterm and ImageMagick.
import { spawn, spawnSync } from 'node:child_process'
import { chmodSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { installPrograms } from './machine.mjs'
import { root } from './steps.mjs'

const DISPLAY = ':97'
const BACKGROUND = '#16181d'
const example = mkdtempSync(join(tmpdir(), 'dome-api-'))
const shots = [
  { name: 'check', script: 'mappa check --all' },
  { name: 'show', script: 'mappa show --stage production' },
  { name: 'show-one', script: 'mappa show NIGHT_PLACES --stage development' },
  { name: 'help', script: 'node dist/server.js --help' },
  { name: 'guard', script: 'mappa guard --history', before: leakKey },
  { name: 'compare', script: 'cd deploy; mappa compare', before: addDeploy },
  { name: 'fill', script: 'cd deploy; mappa fill deployment.template.yaml --stage production', before: spoilTemplate },
  { name: 'run', script: 'cd rain-watch; mappa run --stage production -- python3 rain_watch.py', before: addRainWatch },
  { name: 'survey', script: 'cd early; mappa survey', before: addEarly },
  { name: 'move', script: 'cd early; mappa move DOME_KEY < /dev/null', before: moveOthers, size: 8 },
  { name: 'move-python', script: 'cd meteor-log; mappa move STORE_KEY < /dev/null', before: addMeteorLog, size: 8 },
  { name: 'store-compare', script: 'cd stand-in; mappa store compare --stage production', before: addStore, size: 9 },
  { name: 'editor', script: 'cd editing; nvim --clean -S editor.lua .env.production', before: addEditing },
  { name: 'refused-build', script: 'cd desk; vite build', before: reachServer, size: 10 },
  { name: 'refusal', script: 'MAPPA_STAGE=production node dist/server.js', before: breakProduction },
]

function run(program, words, options = {}) {
  const { status, stderr } = spawnSync(program, words, { encoding: 'utf8', ...options })
  if (status !== 0) throw new Error(`${program} ended with ${status}: ${stderr}`)
}

/** A store with what the three machines have, but for a drill key in production and a name that nobody declares. */
function addStore() {
  const own = join(example, 'stand-in')
  mkdirSync(own)
  cpSync(join(root, 'examples/stand-in/settings.definition.json'), join(own, 'settings.definition.json'))
  const endpoint = 'http://127.0.0.1:23797'
  const urls = ['--listen-client-urls', endpoint, '--advertise-client-urls', endpoint]
  const peers = [
    '--listen-peer-urls',
    'http://127.0.0.1:23798',
    '--initial-advertise-peer-urls',
    'http://127.0.0.1:23798',
  ]
  const cluster = ['--initial-cluster', 'm1=http://127.0.0.1:23798', '--data-dir', join(own, 'etcd')]
  etcd = spawn('etcd', ['--name', 'm1', ...urls, ...peers, ...cluster], { stdio: 'ignore' })
  const store = { kind: 'etcd', endpoints: [endpoint], prefix: 'fernhollow/dome-api' }
  writeFileSync(join(own, 'settings.store.json'), JSON.stringify(store))
  writeFileSync(join(own, '.env.production'), 'DOME_URL=https://dome.fernhollow.example\nNIGHT_PLACES=12\n')
  writeFileSync(join(own, '.env.production.local'), 'DOME_KEY=open-sky-5Hn8Vc3Lp1Yg9Tj\n', { mode: 0o600 })
  writeFileSync(join(own, '.env.development.local'), 'DOME_KEY=drill-7Kd2Qw9Zt4Rm6Xb\n', { mode: 0o600 })
  const keys = { DOME_URL: 'https://dome.fernhollow.example', DOME_KEY: 'drill-7Kd2Qw9Zt4Rm6Xb', NIGHT_PLACE: '14' }
  const base64 = (text) => Buffer.from(text).toString('base64')
  for (const [name, value] of Object.entries(keys)) {
    const data = { key: base64(`fernhollow/dome-api/production/${name}`), value: base64(value) }
    const address = `${endpoint}/v3/kv/put`
    run('curl', [
      '-s',
      '--retry',
      '20',
      '--retry-connrefused',
      '--retry-delay',
      '1',
      address,
      '-d',
      JSON.stringify(data),
    ])
  }
}

/** The store of one picture. */
let etcd = null

/** A key in a script that git tracks, the same key in a note of an earlier commit, and a file that others can read. */
function leakKey() {
  const git = (...words) => run('git', ['-c', 'user.name=Fern', '-c', 'user.email=', ...words], { cwd: example })
  const key = /DOME_KEY=(.*)/.exec(readFileSync(join(example, '.env.production.local'), 'utf8'))[1]
  const note = join(example, 'night-shift.md')
  writeFileSync(join(example, '.gitignore'), 'node_modules/\ndist/\n.env.local\n.env.*.local\n')
  writeFileSync(join(example, 'open-dome.sh'), `curl -H 'authorization: Bearer ${key}' "$DOME_URL/open"\n`)
  writeFileSync(note, `If the slit sticks, send ${Buffer.from(key).toString('base64')}.\n`)
  git('init', '-q')
  git('add', '.')
  git('commit', '-qm', 'How to open the dome at night')
  rmSync(note)
  git('commit', '-qam', 'Forget it')
  chmodSync(join(example, '.env.production.local'), 0o644)
}

/** The server as it was when its settings stood in the code. */
function addEarly() {
  const early = join(example, 'early')
  mkdirSync(early)
  cpSync(join(root, 'examples/dome-early/src'), join(early, 'src'), { recursive: true })
  writeFileSync(join(early, 'package.json'), '{ "type": "module", "dependencies": { "mappa-settings": "*" } }')
  writeFileSync(join(early, '.gitignore'), '.env.local\n.env.*.local\n')
  run('git', ['init', '-q'], { cwd: early })
}

/** The deployment files, with a drill key by mistake in production, too. */
function addDeploy() {
  const deploy = join(example, 'deploy')
  cpSync(join(root, 'examples/deploy'), deploy, { recursive: true })
  writeFileSync(join(deploy, '.env.development.local'), 'DOME_KEY=drill-of-the-desk-in-development\n')
  for (const stage of ['staging', 'production'])
    writeFileSync(join(deploy, `.env.${stage}.local`), 'DOME_KEY=drill-of-the-rehearsal-dome-0117\n')
}

/** A typo, a value that is not set, and a key where none is filled in. */
function spoilTemplate() {
  const file = join(example, 'deploy/deployment.template.yaml')
  const text = readFileSync(file, 'utf8').replace('${DOME_URL|yaml}', '${DOME_ULR|yaml}').replace(':-Clear skies', '')
  writeFileSync(file, text.replace('SERVICE_PORT|yaml', 'SERVICE_PORT|yml'))
  writeFileSync(join(example, 'deploy/.env.production.local'), 'DOME_KEY=open-the-sky-over-fernhollow-2218\n')
}

function addRainWatch() {
  const watch = join(example, 'rain-watch')
  cpSync(join(root, 'examples/rain-watch'), watch, { recursive: true })
  const file = join(watch, '.env.production')
  writeFileSync(
    file,
    readFileSync(file, 'utf8').replace('RAIN_LIMIT=0.5', 'RAIN_LIMIT=0,5').replace('DOME_MOTORS', 'DOME_MOTRS'),
  )
}

/** Everything but the key of the store, so that the change is short enough for one picture. */
function addMeteorLog() {
  const log = join(example, 'meteor-log')
  cpSync(join(root, 'examples/meteor-log'), log, { recursive: true })
  writeFileSync(join(log, '.gitignore'), '.env.local\n.env.*.local\n')
  writeFileSync(join(log, 'settings.definition.json'), '{\n  "settings": {}\n}\n')
  run('git', ['init', '-q'], { cwd: log })
  const words = ['move', 'SERVER_PORT', 'MESSAGE_URL', '--yes']
  run(process.execPath, [join(root, 'packages/mappa-cli/dist/main.js'), ...words], { cwd: log, stdio: 'ignore' })
}

/** Everything but the key, so that the change is short enough for one picture. */
function moveOthers() {
  const command = join(root, 'packages/mappa-cli/dist/main.js')
  run(
    process.execPath,
    [command, 'move', 'SERVER_PORT', 'SERVER_HOSTNAME', 'STAR_MAP_URL', 'CONTROLLER_URL', '--yes'],
    { cwd: join(example, 'early') },
  )
}

/** The page for visitors, with a line that reaches what only the server of the desk may know. */
function reachServer() {
  const desk = join(example, 'desk')
  const filter = (path) => !/node_modules|dist$|\.local$/.test(path)
  cpSync(join(root, 'examples/night-desk'), desk, { recursive: true, filter })
  run('npx', ['tsx', 'simulated/issue-keys.ts'], { cwd: desk })
  const ledger = "import { settings } from 'virtual:mappa/server'\n\nexport const ledger = settings.desk.ledger\n"
  writeFileSync(join(desk, 'src/server/ledger.ts'), ledger)
  const form = join(desk, 'src/page/booking-form.tsx')
  const text = readFileSync(form, 'utf8').replace('<h2>Book a place</h2>', '<h2>Book a place: {ledger}</h2>')
  writeFileSync(form, `import { ledger } from '../server/ledger.ts'\n${text}`)
}

/** A file of production with faults, in an editor that is connected to the language server. */
function addEditing() {
  const own = join(example, 'editing')
  mkdirSync(own)
  for (const file of ['.env', '.env.development', '.env.staging', 'src/settings.definition.ts', 'package.json'])
    cpSync(join(root, 'examples/dome-api', file), join(own, file))
  symlinkSync(join(root, 'node_modules'), join(own, 'node_modules'))
  writeFileSync(
    join(own, '.env.production'),
    '# The dome itself.\n\nDOME_URL=dome.fernhollow.example\nDOME_MOTORS=perhaps\nDOME_PATIENCE=10s\nDOME_ALARM=desk@fernhollow.example\nSERVER_PRT=4120\nNIGHT_CLOSED_BECAUSE=Storm over the hill\n',
  )
  writeFileSync(
    join(own, 'editor.lua'),
    `vim.o.termguicolors = true; vim.o.number = true; vim.o.laststatus = 0; vim.cmd('colorscheme slate')
vim.cmd('hi Pmenu guibg=#30343c guifg=#e6e6e6 | hi SignColumn guibg=NONE | hi Normal guibg=${BACKGROUND}')
vim.diagnostic.config({ virtual_text = { format = function(each) return each.message:match('[^\\n]*') end }, severity_sort = true })
local client = vim.lsp.start_client({
  name = 'mappa', root_dir = '${own}',
  cmd = { '${process.execPath}', '${join(root, 'packages/mappa-cli/dist/main.js')}', 'language-server', '--stdio' },
})
vim.lsp.buf_attach_client(0, client)
local function drawn() vim.cmd('redraw'); vim.fn.writefile({}, '${join(example, '.drawn')}') end
vim.defer_fn(function()
  vim.api.nvim_win_set_cursor(0, { 8, 2 }); vim.lsp.buf.hover(); vim.defer_fn(drawn, 1500)
end, 4000)
`,
  )
}

function breakProduction() {
  const file = join(example, '.env.production')
  const text = readFileSync(file, 'utf8').replace('4120', '412000').replace('DOME_MOTORS', 'DOME_MOTRS')
  writeFileSync(file, text)
  rmSync(join(example, '.env.production.local'))
}

/** What a person would see after typing the command. */
function draw({ name, script, before, size = 11 }) {
  before?.()
  const rc = join(example, '.shot')
  writeFileSync(
    rc,
    `cd ${example}; mappa() { node ${join(root, 'packages/mappa-cli/dist/main.js')} "$@"; }
vite() { node ${join(root, 'node_modules/vite/bin/vite.js')} "$@"; }
printf '\\033[1m$ %s\\033[0m\\n' '${script.replace(/^cd [\w-]+; | < .*/g, '')}'; ${script}; printf '\\n\\033[?25l'; touch ${example}/.drawn; sleep 60\n`,
  )
  const colours = [
    '-bg',
    BACKGROUND,
    '-fg',
    '#e6e6e6',
    '-xrm',
    'XTerm*color3: #e0b050',
    '-xrm',
    'XTerm*color1: #ff7b72',
  ]
  const font = [
    '-fa',
    'DejaVu Sans Mono',
    '-fs',
    String(size),
    '-geometry',
    size < 11 ? '178x58' : '139x40',
    '-b',
    '14',
    '-bw',
    '0',
    '+sb',
  ]
  const terminal = spawn('xterm', [...colours, ...font, '-e', 'bash', rc], {
    env: { ...process.env, DISPLAY, COLORTERM: '' },
  })
  const drawn = join(example, '.drawn')
  run('bash', ['-c', `for i in $(seq 150); do [ -e ${drawn} ] && break; sleep 0.1; done; sleep 0.6; rm ${drawn}`])
  const file = join(root, `docs/screenshots/${name}.png`)
  run('import', ['-display', DISPLAY, '-window', 'root', '-crop', '1270x780+0+0', file])
  // The empty rest of the window says nothing.
  run('mogrify', ['+repage', '-trim', '-bordercolor', BACKGROUND, '-border', '16', '+repage', file])
  terminal.kill()
}

cpSync(join(root, 'examples/dome-api'), example, {
  recursive: true,
  filter: (path) => !/node_modules|\.local$/.test(path),
})
symlinkSync(join(root, 'node_modules'), join(example, 'node_modules'))
run('npx', ['tsx', 'simulated/issue-keys.ts'], { cwd: example })
run(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'warn'], { cwd: example })
const screen = spawn('Xvfb', [DISPLAY, '-screen', '0', '1280x800x24', '-br'], { stdio: 'ignore' })
try {
  await new Promise((resolve) => setTimeout(resolve, 1500))
  for (const shot of shots) draw(shot)
} finally {
  screen.kill()
  etcd?.kill()
  rmSync(example, { recursive: true, force: true })
}
installPrograms(['chromium-headless-shell'])
run(process.execPath, ['--import', 'tsx', join(root, 'scripts/screenshot-pages.ts')], { cwd: root })
