/** Everything is as it should be. */
export const EXIT_OK = 0
/** Problems were found. */
export const EXIT_PROBLEMS = 1
/** Usage error: nothing was checked. */
export const EXIT_USAGE = 2
/** Ctrl+C at a question: 128 and the number of the signal, as shells have it. */
export const EXIT_INTERRUPTED = 130
