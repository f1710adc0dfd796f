import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { definitionSchema } from '@mappa/core/derive/definition-schema'

// What editors read by `"$schema": "./node_modules/mappa-settings/dist/settings.definition.schema.json"`.
const file = join(import.meta.dirname, '../packages/mappa-settings/dist/settings.definition.schema.json')
writeFileSync(file, `${JSON.stringify(definitionSchema())}\n`)
