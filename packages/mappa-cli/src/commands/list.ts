import type { CommandEntry } from './entry.ts'

/** Every command. */
export const commands: readonly CommandEntry[] = [
  {
    name: 'init',
    summary: 'set up a project',
    examples: [
      ['mappa init', 'inspect the project and write what it needs'],
      ['mappa init --yes', 'the same without questions; also moves secrets out of committed files'],
    ],
    load: () => import('./init/command.ts'),
  },
  {
    name: 'survey',
    summary: 'find settings and keys that are still in the code',
    examples: [
      ['mappa survey', 'scan the whole project'],
      ['mappa survey src --json', 'one directory, as JSON'],
    ],
    packages: { works: 'all', files: /./ },
    load: () => import('./survey/command.ts'),
  },
  {
    name: 'move',
    summary: 'move settings and keys out of the code',
    examples: [
      ['mappa move DOME_KEY', 'show what moving one finding would change, and ask'],
      ['mappa move --all --yes --stage staging', 'move all findings, as values of staging'],
    ],
    packages: { works: 'one' },
    load: () => import('./move/command.ts'),
  },
  {
    name: 'check',
    summary: 'check the settings of one stage, or of all',
    examples: [
      ['mappa check --stage production', 'check one stage'],
      ['mappa check --all --allow-missing-secrets', 'in CI, where there are no secrets'],
    ],
    packages: { works: 'defined' },
    load: () => import('./check/command.ts'),
  },
  {
    name: 'show',
    summary: 'show every value and where it comes from',
    examples: [
      ['mappa show --stage production', 'every setting of a stage'],
      ['mappa show DOME_URL', 'what each layer says about one setting'],
    ],
    load: () => import('./show/command.ts'),
  },
  {
    name: 'compare',
    summary: 'compare stages, or env files, side by side',
    examples: [
      ['mappa compare', 'all stages'],
      ['mappa compare staging production --only different', 'what is not the same in two of them'],
      ['mappa compare .env.staging .env.production', 'two files, each taken by itself'],
    ],
    packages: { works: 'defined', files: /[./\\]/ },
    load: () => import('./compare/command.ts'),
  },
  {
    name: 'set',
    summary: 'write a value into a layer without showing it',
    examples: [
      ['mappa set NIGHT_PLACES 9 --stage production', 'into .env.production'],
      ['mappa set DOME_KEY --stage production', 'a secret, which is asked for'],
      ['mappa set --missing', 'ask for everything that is missing'],
    ],
    packages: { works: 'one' },
    load: () => import('./set/command.ts'),
  },
  {
    name: 'write',
    summary: 'write files derived from the definition',
    examples: [
      ['mappa write example', 'write .env.example'],
      ['mappa write --all --verify', 'in CI: fail if a file is out of date'],
    ],
    packages: { works: 'defined' },
    load: () => import('./write/command.ts'),
  },
  {
    name: 'guard',
    summary: 'find secrets where they must not be',
    examples: [
      ['mappa guard dist', 'check git, and built output'],
      ['mappa guard --history', 'search every commit as well'],
      ['mappa guard --history --former DOME_KEY', 'who still has the key that was replaced?'],
      ['mappa guard --install', 'check staged files before each commit'],
    ],
    packages: {
      works: 'defined',
      about: '--former',
      once: ['--install', '--repository'],
      shared: { apart: '--own-files', together: '--packages' },
    },
    load: () => import('./guard/command.ts'),
  },
  {
    name: 'run',
    summary: 'start a command with the values of a stage in its environment',
    examples: [
      ['mappa run -- python3 rain_watch.py', 'check the settings, then start the program'],
      ['mappa run --stage production --only-declared -- ./server', 'pass on no other variables'],
      ['mappa run --watch -- node server.js', 'start it again when a value changes'],
    ],
    load: () => import('./run/command.ts'),
  },
  {
    name: 'fill',
    summary: 'put values into any text file',
    examples: [
      ['mappa fill deploy.template.yaml --all --out deploy.{stage}.yaml', 'one file for each stage'],
      ['mappa fill nginx.template.conf --only-declared', 'print one, and leave $host alone'],
      ['mappa fill deploy.template.yaml --all --out deploy.{stage}.yaml --verify', 'in CI'],
    ],
    load: () => import('./fill/command.ts'),
  },
  {
    name: 'export',
    summary: 'write the values of a stage for another program',
    examples: [
      ['mappa export --as json --stage production', 'print what is no secret'],
      ['mappa export --as docker --with-secrets --out run.env', 'write a file that git ignores'],
      ['mappa export --as kubernetes --stage staging', 'print a ConfigMap'],
    ],
    load: () => import('./export/command.ts'),
  },
  {
    name: 'store',
    summary: 'compare a store that many machines share, send values to it and fetch them',
    examples: [
      ['mappa store compare --stage production', 'what is missing there, different, or breaks a rule'],
      ['mappa store send --stage production', 'show what would change there, and ask'],
      ['mappa store history --stage production', 'who changed which name when'],
    ],
    load: () => import('./store/command.ts'),
  },
  {
    name: 'view',
    summary: 'show all stages on a page, or in a report',
    examples: [
      ['mappa view', 'serve the page on this machine, and print its link'],
      ['mappa view --out report.html', 'write a report, for a pull request or a ticket'],
      ['mappa view staging production --format markdown', 'print two stages for a comment'],
    ],
    load: () => import('./view/command.ts'),
  },
  {
    name: 'completion',
    summary: 'print what makes a shell complete the words of this command',
    examples: [
      ['source <(mappa completion bash)', 'in ~/.bashrc'],
      ['mappa completion fish | source', 'in the configuration of fish'],
    ],
    load: () => import('./completion/command.ts'),
  },
  {
    name: 'language-server',
    summary: 'serve editors by the Language Server Protocol',
    examples: [['mappa language-server --stdio', 'what an editor starts']],
    load: () => import('./language-server/command.ts'),
  },
]
