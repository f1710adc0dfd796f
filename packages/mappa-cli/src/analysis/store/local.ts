import type { Definition } from '@mappa/core/definition/definition'
import { readLayers } from '@mappa/core/layers/source'
import { resolveSettings } from '@mappa/core/resolve/resolve'
import type { ResolvedSetting } from '@mappa/core/resolve/resolved-setting'
import { envFiles } from '@mappa/node/sources/env-files'

/** The settings of a stage by the files of the project alone: the environment of this process is nobody else's. */
export function readFileSettings(root: string, definition: Definition, stage: string): readonly ResolvedSetting[] {
  const layers = readLayers(envFiles(root, definition).sources, stage)
  return resolveSettings(definition, { stage, layers, root }).settings
}

/** The text that the files give a setting; `null` where they give none, and where it is the default of the definition. */
export function readFileText({ text, origin }: ResolvedSetting): string | null {
  return text === undefined || origin === null || origin.layer === 'defaults' ? null : text
}
