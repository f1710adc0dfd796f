import { printTable } from './measure.ts'
import { benchRead } from './read.ts'

printTable('Reading', benchRead(25))
