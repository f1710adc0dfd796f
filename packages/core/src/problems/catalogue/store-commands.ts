import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What commands find out about a store. */
export const storeCommandProblems = () => ({
  'store-missing': error(
    '{name} ({description}) has no value in {store}.',
    'Set it here, and send it: mappa set {name} --stage {stagename}, then mappa store send.',
    'Send the value that is here: mappa store send {near} --stage {stagename}',
  ),
  'store-undeclared': notice(
    '{store} holds {name}, which the definition does not declare.',
    'Declare it, or remove it with mappa store send --remove {name}.',
    'Did you mean {near}?',
  ),
  'store-value-of-stage': error(
    '{name} in {store} has the value of {other}.',
    'Each stage needs a value of its own: mappa store send {name} --stage {stagename}',
  ),
  'store-value-of-stage-likely': notice(
    '{name} in {store} has the value of {other}.',
    'If each stage needs one of its own, declare it with distinctAcrossStages.',
  ),
  'store-stage-unread': notice(
    'What {store} holds for {other} could not be read, so values were not compared with it.',
    'Use a user or a token that may read all stages, if they are to differ.',
  ),
  'store-not-writable': error('{store} takes no values.', 'Write them there in another way.'),
  'store-no-history': error('{store} does not tell what has changed.', 'Ask those who run it.'),
  'store-name-unknown': error(
    '{asked} is neither a setting nor a name in {store}.',
    'mappa store compare lists both.',
    'Write {near}.',
  ),
})

/** Makes a problem of a command that works on a store. */
export const storeCommandProblem = /* @__PURE__ */ problemFactory(storeCommandProblems)
