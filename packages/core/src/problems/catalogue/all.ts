import { commandProblems } from './commands.ts'
import { definitionFileProblems } from './definition-files.ts'
import { editingProblems } from './editing.ts'
import { editorProblems } from './editors.ts'
import { fillingProblems } from './filling.ts'
import { guardProblems } from './guard.ts'
import { catalogue } from './index.ts'
import { movingProblems } from './moving.ts'
import { packagesProblems } from './packages.ts'
import { pageProblems } from './pages.ts'
import { patternProblems } from './patterns.ts'
import { publicValueProblems } from './public-values.ts'
import { runningProblems } from './running.ts'
import { runtimeValueProblems } from './runtime-values.ts'
import { storeCommandProblems } from './store-commands.ts'
import { storeProblems } from './stores.ts'
import { testingProblems } from './testing.ts'
import { viewProblems } from './views.ts'
import { writingProblems } from './writing.ts'

/**
 * Every problem there is, by its code. Nothing else in the project writes a sentence about one. A program that loads
 * its settings carries only those of `index.ts` along.
 */
export const allProblems = () => ({
  ...catalogue(),
  ...definitionFileProblems(),
  ...patternProblems(),
  ...editingProblems(),
  ...writingProblems(),
  ...commandProblems(),
  ...movingProblems(),
  ...guardProblems(),
  ...pageProblems(),
  ...publicValueProblems(),
  ...fillingProblems(),
  ...runningProblems(),
  ...runtimeValueProblems(),
  ...storeProblems(),
  ...storeCommandProblems(),
  ...testingProblems(),
  ...viewProblems(),
  ...packagesProblems(),
  ...editorProblems(),
})
