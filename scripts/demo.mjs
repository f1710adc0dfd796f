import { setUp, step } from './steps.mjs'

setUp({ programs: ['python3', 'etcd-server'] })
step('Demo: moving settings out of the code', process.execPath, ['--import', 'tsx', 'examples/dome-early/demo.ts'])
step('Demo: a server in all its stages', process.execPath, ['--import', 'tsx', 'examples/dome-api/demo.ts'])
step('Demo: a page, from one build in all its stages', process.execPath, [
  '--import',
  'tsx',
  'examples/night-desk/demo.ts',
])
step('Demo: deployment files, and a program in Python', process.execPath, [
  '--import',
  'tsx',
  'examples/deploy/demo.ts',
])
step('Demo: a store that many machines share', process.execPath, ['--import', 'tsx', 'examples/stand-in/demo.ts'])
