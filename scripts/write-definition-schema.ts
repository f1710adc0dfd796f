import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { definitionSchema } from '../packages/mappa-settings/src/core/derive/definition-schema.ts'

// What editors read by `"$schema": "./node_modules/mappa-settings/dist/settings.definition.schema.json"`.
const file = join(import.meta.dirname, '../packages/mappa-settings/dist/settings.definition.schema.json')
writeFileSync(file, `${JSON.stringify(definitionSchema())}\n`)
