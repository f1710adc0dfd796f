// npm run lint
import { lint } from './checks.mjs'
import { install } from './steps.mjs'

install()
lint()
