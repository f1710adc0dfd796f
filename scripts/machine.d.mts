export function findChromium(): string | null
export function ensurePrograms(packages?: readonly string[]): void
