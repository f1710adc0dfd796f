import manifest from '../package.json' with { type: 'json' }

/** The version of this package. */
export const { version } = manifest
