/** The version of Mappa, as the `package.json` of each package has it. Imported from there, all of that file would lie in what programs load. */
export const version = '0.1.0'
