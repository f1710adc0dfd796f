// npm run bench: measures everything that has a limit. npm run performance: the same and how cost grows, into docs/performance.md.
import { dropCertificates, setUp, step } from './steps.mjs'

setUp()
dropCertificates()
step('Measuring', process.execPath, ['--import', 'tsx', 'bench/main.ts', ...process.argv.slice(2)])
