/** Somebody pressed Ctrl+C at a question. */
export class Interrupted extends Error {}

/**
 * Runs a question at the terminal.
 *
 * @param otherwise what to throw where the question was left unanswered in another way, because the input ended for example
 * @throws {Interrupted} after Ctrl+C
 */
export async function answered<T>(ask: () => Promise<T>, otherwise: () => Error): Promise<T> {
  try {
    return await ask()
  } catch (error) {
    throw /SIGINT/.test(String((error as Error).message)) ? new Interrupted() : otherwise()
  }
}
