// One of several dome services: follows the store, and says what it works with.
import { readFileSync } from 'node:fs'
import { definitionFromJson } from 'mappa-settings'
import { watchSettings } from 'mappa-settings/node'
import { openStore } from 'mappa-settings/store'

const machine = process.argv[2]
const definition = definitionFromJson(JSON.parse(readFileSync('settings.definition.json', 'utf8')))
const say = ({ dome, night }) => console.log(`  ${machine}: ${night.places} places, key ${dome.key}`)
const settings = await watchSettings(definition, say, {
  store: await openStore(),
  stage: 'production',
  onProblems: ({ title, problems }) =>
    console.log(`  ${machine}: ${title} (${problems.map(({ code }) => code).join(', ')})`),
})
say(settings.current)
