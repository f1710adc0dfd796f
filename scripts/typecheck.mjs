// npm run typecheck
import { typecheck } from './checks.mjs'
import { setUp } from './steps.mjs'

setUp()
typecheck()
