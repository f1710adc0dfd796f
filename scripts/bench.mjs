import { setUp, step } from './steps.mjs'

setUp()
step('Measuring', process.execPath, ['--import', 'tsx', 'bench/main.ts'])
