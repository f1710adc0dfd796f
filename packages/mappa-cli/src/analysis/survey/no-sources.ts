import { isEnvFile } from '@mappa/core/layers/env-file-name'

/** Files that are no code and no configuration: pictures, sounds, fonts, archives, binaries, data, documents, styles, lists of versions. */
const ENDINGS =
  /\.(?:png|jpe?g|gif|webp|avif|ico|icns|bmp|tiff?|svg|psd|ai|woff2?|ttf|otf|eot|mp[34]|m4[av]|webm|ogg|wav|flac|mov|avi|pdf|docx?|xlsx?|pptx?|od[ts]|zip|t?gz|bz2|xz|zst|br|7z|rar|jar|war|whl|gem|wasm|so|o|a|dylib|dll|exe|class|pyc|bin|dat|db|sqlite3?|lock|lockb|sum|mod|map|snap|md|markdown|rst|txt|adoc|tex|csv|tsv|parquet|geojson|css|s[ac]ss|less|styl|po|mo|pot|log|patch|diff|pem|crt|cer|der|p12|pub|key|env)$/i
/** Files that are called so and hold nothing to find: documents and rules of tools. */
const NAMES =
  /(?:^|\/)(?:LICEN[CS]E|COPYING|NOTICE|README|CHANGELOG|CHANGES|CONTRIBUTING|AUTHORS|CODEOWNERS|VERSION|MANIFEST|go\.work|\.(?:git|docker|npm|eslint|prettier|style?lint)ignore|\.git(?:attributes|modules|keep)|\.editorconfig|\.nvmrc|\.node-version|\.python-version|\.ruby-version|\.tool-versions|\.mailmap|\.DS_Store)$/i

/** True for a file in which a survey looks for nothing, and of which nobody needs to be told. */
export function isNoSource(file: string): boolean {
  return ENDINGS.test(file) || NAMES.test(file) || isEnvFile(file)
}
