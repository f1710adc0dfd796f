import { readByLines } from './lines.ts'

export const data = readByLines({
  name: 'JSON, TOML and properties',
  files: /\.(json|toml|ini|cfg|conf|properties)$/,
  comment: /^\s*[#;]/,
  reads: [],
})
