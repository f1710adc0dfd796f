import { fs, path } from '@mappa/node/fs/builtin'

/** Directories of other people's code and of version control, whatever ignore rules say. */
const FOREIGN = new Set([
  'node_modules',
  'bower_components',
  'jspm_packages',
  '.pnpm-store',
  '.yarn',
  '.venv',
  'venv',
  'site-packages',
  '__pycache__',
  '.tox',
  '.bundle',
  'Pods',
  '.gradle',
  '.git',
  '.hg',
  '.svn',
  '.jj',
])

/** Directories that programs write into. Some people keep sources under such a name, which git then tracks. */
const OUTPUT = new Set(['dist', 'build', 'out', 'target', 'coverage', 'storybook-static'])

/** EncodedRegions directories that people write into; most others are caches and output of tools. */
const HIDDEN_SOURCES = new Set([
  '.github',
  '.gitlab',
  '.circleci',
  '.config',
  '.husky',
  '.storybook',
  '.devcontainer',
  '.vscode',
])

/** What beside a directory called `vendor` says that a package manager fills it. */
const VENDORED_BY = ['composer.json', 'go.mod', 'Gemfile']

/**
 * Why a directory is left out of a survey and never changed; `null` for one of the project's own.
 *
 * @param directory its absolute path
 */
export function exclusionKind(directory: string): 'dependencies' | 'build output' | null {
  const name = path.basename(directory)
  if (FOREIGN.has(name)) return 'dependencies'
  if (name === 'vendor') {
    const beside = path.dirname(directory)
    if (VENDORED_BY.some((each) => fs.existsSync(path.join(beside, each)))) return 'dependencies'
  }
  return OUTPUT.has(name) || (name.startsWith('.') && !HIDDEN_SOURCES.has(name)) ? 'build output' : null
}
