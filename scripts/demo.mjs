import { setUp, step } from './steps.mjs'

setUp()
step('Demo', process.execPath, ['--import', 'tsx', 'examples/dome-api/demo.ts'])
