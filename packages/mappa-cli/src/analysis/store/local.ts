import type { Definition } from '../../../../mappa-settings/src/core/definition/definition.ts'
import { resolveSettings } from '../../../../mappa-settings/src/core/resolve/resolve.ts'
import type { ResolvedSetting } from '../../../../mappa-settings/src/core/resolve/resolved-setting.ts'
import { envFiles } from '../../../../mappa-settings/src/node/sources/env-files.ts'

/** The settings of a stage by the files of the project alone: the environment of this process is nobody else's. */
export function settingsInFiles(root: string, definition: Definition, stage: string): readonly ResolvedSetting[] {
  const layers = envFiles(root, definition.layersFrom).sources.map((source) => source.read(stage))
  return resolveSettings(definition, { stage, layers, root }).settings
}

/** The text that the files give a setting; `null` where they give none, and where it is the default of the definition. */
export function textInFiles({ text, origin }: ResolvedSetting): string | null {
  return text === undefined || origin === null || origin.layer === 'defaults' ? null : text
}
