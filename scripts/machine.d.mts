export const ALL_PROGRAMS: readonly string[]
export function findChromium(): string | null
export function ensurePrograms(packages: readonly string[]): void
