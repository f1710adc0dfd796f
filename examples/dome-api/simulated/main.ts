import { join } from 'node:path'
import { inspectSettings } from 'mappa-settings/node'
import definition from '../src/settings.definition.ts'
import { startController } from './controller.ts'
import { issueKeys } from './issue-keys.ts'

// The simulated controller asks for the key of each stage, so it looks where the service looks.
const root = join(import.meta.dirname, '..')
issueKeys(root)
const keys = definition.stages.map(
  (stage) =>
    inspectSettings(definition, { stage, root }).settings.find(({ declaration }) => declaration.path === 'dome.key')
      ?.value,
)
const controller = await startController(
  keys.filter((key) => typeof key === 'string'),
  4200,
)
console.log(`dome controller (simulated) listens on ${controller.url}`)
