export function copyCommand(directory: string): string
