/**
 * `mappa-settings/bundler`: public settings in pages that any bundler makes, where there is no plugin of ours. For configurations of builds;
 * programs don't load it.
 *
 * @module mappa-settings/bundler
 */
export { type CheckReadsOptions, checkReads } from './check-reads.ts'
export { publicReplacements, type ReplacementOptions } from './replacements.ts'
