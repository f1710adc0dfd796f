import '../settings.ts'

/** Nitro loads its plugins before the server listens. */
export default defineNitroPlugin(() => {})
