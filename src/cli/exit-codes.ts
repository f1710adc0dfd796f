/** Everything is as it should be. */
export const EXIT_FINE = 0
/** Problems were found. */
export const EXIT_PROBLEMS = 1
/** The command was called wrongly: nothing was looked at. */
export const EXIT_USAGE = 2
/** Ctrl+C at a question: 128 and the number of the signal, as shells have it. */
export const EXIT_INTERRUPTED = 130
