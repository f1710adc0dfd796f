import { holdsValues } from '@mappa/core/layers/env-file-name'
import { fs, path } from '@mappa/node/fs/builtin'
import { toRelativePath } from '@mappa/node/fs/places'
import { findRepository } from '@mappa/node/git/git'
import { findDefinition, requireFound } from '@mappa/node/project/definition/find'
import { definitionPlace } from '../../project/definition/place.ts'
import { listPackages } from '../../project/manifest.ts'
import type { Finding } from '../survey/findings.ts'
import type { Read } from '../survey/reads.ts'
import { surveyProject } from '../survey/survey.ts'
import { type Framework, findFramework } from './frameworks.ts'

/** What a project looks like before anything is set up. */
export interface ProjectSummary {
  /** The definition that exists already, relative to the root. */
  readonly definition: string | null
  /** Where a new one would go. */
  readonly place: string
  /** Env files that exist. */
  readonly envFiles: readonly string[]
  /** Variables that the code reads and systems do not set. */
  readonly reads: readonly Read[]
  /** What the code takes for variables that are not set, by their names. */
  readonly fallbacks: ReadonlyMap<string, string>
  /** Variables for which the code takes a secret. */
  readonly secrets: ReadonlySet<string>
  /** True for a project whose pages Vite builds. */
  readonly usesVite: boolean
  /** The framework that it is built with; `null` for none that needs anything of its own. */
  readonly framework: Framework | null
  readonly inRepository: boolean
  /** True if programs of the project can't import the library yet. */
  readonly libraryMissing: boolean
}

/**
 * Looks at a project before it is set up. Changes nothing.
 *
 * @param without absolute paths of directories that do not belong to it, such as those of packages
 */
export function summarizeProject(root: string, without: readonly string[] = []): ProjectSummary {
  const { reads, findings, fallbacks } = surveyProject(root, null, { without })
  const definition = findExistingDefinition(root)
  const place = definitionPlace(root)
  const framework = findFramework(root, definition ?? place)
  return {
    definition,
    place,
    framework,
    envFiles: fs.readdirSync(root).filter(holdsValues).sort(),
    reads: reads.filter(({ ofSystem }) => !ofSystem),
    fallbacks,
    secrets: findSecrets(findings),
    usesVite:
      framework?.hasViteConfig === true ||
      ('vite' in listPackages(root) &&
        (reads.some(({ built }) => built) || fs.existsSync(path.join(root, 'index.html')))),
    inRepository: findRepository(root) !== null,
    libraryMissing: !hasLibrary(root),
  }
}

/** True if the library is installed for the project, or if it has no program that could import it. */
function hasLibrary(root: string): boolean {
  if (!fs.existsSync(path.join(root, 'package.json'))) return true
  for (let directory = root; ; directory = path.dirname(directory)) {
    if (fs.existsSync(path.join(directory, 'node_modules/mappa-settings/package.json'))) return true
    if (directory === path.dirname(directory)) return false
  }
}

/** The variables for which the code falls back to a secret, by its look. */
function findSecrets(findings: readonly Finding[]): ReadonlySet<string> {
  const secret = findings.filter((each) => each.secret)
  return new Set(secret.flatMap(({ places }) => places.flatMap((each) => each.variable ?? [])))
}

function findExistingDefinition(root: string): string | null {
  const search = findDefinition(root)
  return search.kind === 'none' ? null : toRelativePath(root, requireFound(search))
}
