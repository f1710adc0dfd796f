import { loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.ts'

/** The settings of this process, flags of its command line included. A wrong or missing one ends it here, with a report of all. */
export const settings = loadSettings(definition, { onErrors: 'exit', flags: process.argv.slice(2) })
