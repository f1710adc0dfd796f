/** Next.js calls this once, before it answers requests. */
export async function register() {
  if (process.env.NEXT_RUNTIME === 'nodejs') await import('./settings.ts')
}
