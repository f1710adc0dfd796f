import { loadSettings } from 'mappa-settings/node'
import definition from '../settings.definition.ts'

export const settings = loadSettings(definition, {
  root: import.meta.url,
  buildStage: process.env.MAPPA_BUILD_STAGE,
  onErrors: 'exit',
})
