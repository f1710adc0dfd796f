export const root: string
export function install(): void
export function setUp(): void
