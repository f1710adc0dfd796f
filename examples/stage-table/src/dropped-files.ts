import { type Definition, definitionFromJson, type Problem, resolveSettings, SettingsError } from 'mappa-settings'
import { documentLayer, EnvDocument } from 'mappa-settings/envfile'
import { checkStages } from '../../../packages/mappa-cli/src/analysis/check/checked-stages.ts'
import { makeMarks } from '../../../packages/mappa-cli/src/analysis/compare/marks.ts'
import { toOverview } from '../../../packages/mappa-cli/src/views/overview.ts'
import type { PageState } from '../../../packages/mappa-cli/src/views/page.ts'
import { problemView } from '../../../packages/mappa-cli/src/views/problem.ts'
import { explainSetting } from '../../../packages/mappa-cli/src/views/story.ts'
import type { PageSource } from '../../../packages/mappa-cli/src/web/source/page-source.ts'

/** The files that somebody dropped, in the memory of the page and nowhere else. */
export class DroppedFiles {
  readonly #files = new Map<string, string>()
  readonly #listeners = new Set<(revision: number) => void>()
  readonly #marks = makeMarks()
  #definition: Definition | null = null
  #failures: readonly Problem[] = []
  #notJson: string | null = null
  #revision = 0

  /** The names of the env files. */
  get names(): readonly string[] {
    return [...this.#files.keys()].sort()
  }

  get hasDefinition(): boolean {
    return this.#definition !== null
  }

  /** What is wrong with the definition, in sentences. */
  get failures(): readonly string[] {
    const sentences = this.#failures.map(({ message, hint }) => `${message} ${hint}`)
    return this.#notJson === null ? sentences : [this.#notJson]
  }

  /**
   * Takes the definition. A wrong one leaves the last good one.
   *
   * @param text what `settings.definition.json` holds
   */
  define(text: string): void {
    try {
      this.#definition = definitionFromJson(JSON.parse(text))
      this.#failures = []
      this.#notJson = null
    } catch (error) {
      this.#failures = error instanceof SettingsError ? error.problems : []
      this.#notJson = error instanceof SyntaxError ? `This is not JSON yet: ${error.message}` : null
    }
    this.#changed()
  }

  /** Takes an env file, in place of one with the same name. */
  add(name: string, text: string): void {
    this.#files.set(name, text)
    this.#changed()
  }

  remove(name: string): void {
    this.#files.delete(name)
    this.#changed()
  }

  /** What the table asks. It can neither write values nor look at code. */
  readonly source: PageSource = {
    state: async () => this.#state(),
    story: async (setting) => explainSetting(setting, this.#stages(), null)!,
    watch: (changed) => {
      this.#listeners.add(changed)
      return () => this.#listeners.delete(changed)
    },
    marksChanges: false,
    editing: null,
    code: null,
    open: null,
    newLink: null,
  }

  #changed(): void {
    this.#revision++
    for (const listener of this.#listeners) listener(this.#revision)
  }

  #state(): PageState {
    return {
      revision: this.#revision,
      overview: toOverview(this.#stages(), { project: 'dropped files', marks: this.#marks }),
      failures: this.#failures.map(problemView),
      hasEditor: false,
    }
  }

  #stages() {
    const definition = this.#definition
    if (definition === null) return []
    return checkStages(
      definition.stages.map((stage) => {
        const names = ['.env', '.env.local', `.env.${stage}`, `.env.${stage}.local`]
        const layers = names.flatMap((name) => {
          const text = this.#files.get(name)
          return text === undefined ? [] : [documentLayer(name, EnvDocument.from(text, { file: name }))]
        })
        return resolveSettings(definition, { stage, layers })
      }),
    )
  }
}
