export const root: string
export function setUp(): void
