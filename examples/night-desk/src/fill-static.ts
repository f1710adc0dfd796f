import { fillPages, loadSettings } from 'mappa-settings/node'
import definition from './settings.definition.ts'

/** What a host of plain files runs before it serves the page: the stage is the one that MAPPA_STAGE names. */
const filled = fillPages('dist/page', loadSettings(definition))
console.log(`Filled ${filled.join(', ')}.`)
