/**
 * What `mappa-settings/preload` is in bundles for pages, by the condition `browser` of its exports: nothing. A bundler says which name is missing;
 * where it does not, the page says why.
 *
 * @packageDocumentation
 */
throw new Error(
  'mappa-settings/preload is for programs on Node, and this is a page, where everybody could read every value.\n→ Import public settings from virtual:mappa/browser, or have a server send them with publicPayload of mappa.',
)

/** Without an export it would be no module to a bundler, and any name could be imported. */
export const isForServers = true
