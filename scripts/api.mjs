// npm run api: writes the API reference to docs/api, from the docstrings. A test checks that it is up to date.
import { referenceInput } from './entries.mjs'
import { install, packaged } from './steps.mjs'

install()
packaged('Writing the API reference to docs/api', 'typedoc/bin/typedoc', referenceInput)
