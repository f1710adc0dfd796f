import { setUp, step } from './steps.mjs'

setUp()
step('Demo: moving settings out of the code', process.execPath, ['--import', 'tsx', 'examples/dome-early/demo.ts'])
step('Demo: a server in all its stages', process.execPath, ['--import', 'tsx', 'examples/dome-api/demo.ts'])
step('Demo: a page, from one build in all its stages', process.execPath, [
  '--import',
  'tsx',
  'examples/night-desk/demo.ts',
])
