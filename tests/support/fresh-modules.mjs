// Hooks for modules of the process that runs the command again and again: what a project has in JavaScript, such as its definition, is a
// module that Node would run once in a process, however often the file changes.

let counted
let command

export function initialize(data) {
  counted = data.counted
  command = data.command
}

export async function resolve(specifier, context, next) {
  const found = await next(specifier, context)
  const isOfProject =
    found.url.startsWith('file:') && !found.url.startsWith(command) && !found.url.includes('/node_modules/')
  // Another address is another module.
  return isOfProject && !found.url.includes('?')
    ? { ...found, url: `${found.url}?call=${Atomics.load(counted, 0)}` }
    : found
}
