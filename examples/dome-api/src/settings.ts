import { loadSettings } from 'mappa/node'
import definition from './settings.definition.ts'

/** The settings of this process. A wrong or missing one ends it here, with a report of all of them. */
export const settings = loadSettings(definition, { onErrors: 'exit' })
