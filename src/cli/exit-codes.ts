/** Everything is as it should be. */
export const EXIT_FINE = 0
/** Problems were found. */
export const EXIT_PROBLEMS = 1
/** The command was called wrongly: nothing was looked at. */
export const EXIT_USAGE = 2
