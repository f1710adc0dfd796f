import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition'

export const settings = loadSettings(definition, { root: `${__dirname}/..`, onErrors: 'exit', requireStage: true })
