import { printTable } from './measure.ts'
import { benchPages } from './pages.ts'

printTable('Pages', benchPages(21))
