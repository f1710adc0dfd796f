export function findChromium(): string | null
export function ensureChromium(): void
