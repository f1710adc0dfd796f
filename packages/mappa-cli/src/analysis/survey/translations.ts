/** Directories of texts for people, in each language. */
const DIRECTORY =
  /(?:^|\/)(?:locales?|i18n|l10n|langs?|languages?|translations?|messages|intl|values-[a-z]{2}(?:-r[A-Z]{2})?|[\w-]+\.lproj)\//i
/** Files of such texts: `messages_it.properties`, `strings.xml`, `translations.ts`. */
const FILE =
  /(?:^|[/_.-])(?:messages|strings|translations?|locales?|i18n|labels)(?:[_.-][a-z]{2}(?:[_-][A-Za-z]{2,4})?)?\.(?:json|ya?ml|properties|php|py|rb|[cm]?[jt]s|xml|toml|ini|resx)$/i
/** Files that are called like a language (ISO 639-1), unless that is a word of programs as well: `fr.json`, `pt-BR.yml`. */
const LANGUAGE =
  /(?:^|\/)(?:ar|bg|ca|cs|cy|da|de|el|en|es|et|eu|fa|fi|fr|ga|gl|he|hi|hr|hu|hy|is|it|ja|ka|kk|ko|lt|lv|mk|mn|nb|nl|nn|pl|pt|ro|ru|sk|sl|sq|sr|sv|ta|th|tr|uk|ur|uz|vi|zh)(?:[_-][A-Za-z]{2,4})?\.(?:json|ya?ml|properties|php|rb|[cm]?[jt]s|toml)$/
/** Names of objects with such texts. */
const OBJECT = /^(?:i18n|translations?|messages|labels|locales?|strings|texts|tooltips?|placeholders?|hints|captions)$/i

/**
 * True where a value is a text for people, as far as its place tells: then a name that says key or password is about one.
 *
 * @param file the path of its file
 * @param names what the value is given to, outermost first
 */
export function isTranslation(file: string, names: readonly string[]): boolean {
  return DIRECTORY.test(file) || FILE.test(file) || LANGUAGE.test(file) || names.some((each) => OBJECT.test(each))
}
