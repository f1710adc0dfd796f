import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What can be wrong with a store that many machines share. */
export const storeProblems = () => ({
  'store-unreachable': error("{store} can't be reached: {reason}.", 'Check that it runs, and its address.'),
  'store-denied': error(
    '{store} refuses access: {reason}.',
    'Check the user name, the password or the token, and what its role may read and write.',
  ),
  'store-conflict': error(
    '{store} was changed meanwhile: {reason}.',
    'Nothing was written. Look at what is there now, and do it again.',
  ),
  'store-refused': error(
    '{store} refuses what it was sent: {reason}.',
    'Nothing was written. Change that, and do it again.',
  ),
  'store-answer-wrong': error(
    '{store} gave an answer that it should not: {reason}.',
    'Check that the address is that of the store, and not of something before it.',
  ),
  'store-value-no-text': error(
    'The value of {name} in {store} is no UTF-8 text.',
    'Write it again as text, or as base64 where it is data.',
  ),
  'store-value-kept': error(
    '{store} keeps the value of {name} to itself.',
    'Give programs their values in another way, such as the environment; such a store can only be compared and written to.',
  ),
  'store-key-odd': notice(
    '{store} holds keys that are no names of variables: {keys}.',
    'They are not read. Check that no other program uses this place.',
  ),
  'store-last-good': notice(
    "{store} can't be read ({reason}), so its last good values are used, {age} old.",
    'Check that it runs, its address and its certificate.',
  ),
  'store-last-good-unusable': notice(
    "The last good values of {store} can't be used: {reason}.",
    'Delete the file; it is written again when the store can be read.',
  ),
  'store-last-good-unwritable': notice(
    "The last good values of {store} can't be kept: {reason}.",
    'Check the directory of the file, or keep none.',
  ),
  'store-file-missing': error(
    'There is no file that says which store to use: {files}.',
    'Write settings.store.json, or name another file with --store-file or MAPPA_STORE.',
  ),
  'store-file-wrong': error(
    '{file} does not say which store to use: {reason}.',
    'docs/guides/stores.md shows such files.',
  ),
  'store-secret-written': error(
    'The {member} stands in {file} itself, which everybody can read.',
    'Write where it is: { "env": "NAME" } or { "file": "path" }. Then replace it, if the file was ever committed.',
  ),
  'store-secret-missing': error(
    'The {member} of the store is to be in {place}, and there is none.',
    'Put it there before the program starts.',
  ),
  'store-option-wrong': error('{option} of {where} {fault}.', '{fix}'),
})

/** Makes a problem with a store that many machines share. */
export const storeProblem = /* @__PURE__ */ problemFactory(storeProblems)
