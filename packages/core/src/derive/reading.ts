/** A language, and how a program in it reads a variable of its environment. */
const LANGUAGES: readonly (readonly [language: string, expression: (name: string) => string])[] = [
  ['JavaScript, TypeScript', (name) => `process.env.${name}`],
  ['Python', (name) => `os.environ["${name}"]`],
  ['Go', (name) => `os.Getenv("${name}")`],
  ['PHP', (name) => `getenv('${name}')`],
  ['Ruby', (name) => `ENV.fetch('${name}')`],
  ['Rust', (name) => `std::env::var("${name}")`],
  ['Java, Kotlin', (name) => `System.getenv("${name}")`],
  ['C#', (name) => `Environment.GetEnvironmentVariable("${name}")`],
  ['shell', (name) => `"$${name}"`],
]

/**
 * How programs in other languages read the settings, as rows of a table: the language, and the expression.
 *
 * @param name the variable to show it with
 */
export function writeReadingTable(name: string): readonly (readonly [language: string, expression: string])[] {
  return LANGUAGES.map(([language, expression]) => [language, `\`${expression(name)}\``])
}
