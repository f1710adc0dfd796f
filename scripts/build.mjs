import { setUp } from './steps.mjs'

setUp()
