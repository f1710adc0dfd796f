import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.js'

export const settings = loadSettings(definition, { root: import.meta.url, onErrors: 'exit', requireStage: true })
