import { type CatalogueEntry, error } from './entry.ts'

/** What a page can find wrong with its runtime settings, each with its hint. Plain texts, since a page carries them. */
export const RUNTIME_VALUE_TEXTS = {
  'payload-not-one':
    'This page should have one element mappa-settings, and has {path}.\n→ Have the server put publicPayload(settings) into this page, or call fillPages for static files.',
  'payload-empty':
    'The element mappa-settings of this page is empty.\n→ Have the server send fillPage(html, settings), or call fillPages for static files.',
  'payload-broken':
    'The element mappa-settings of this page is not JSON.\n→ Do not change what the server wrote there.',
  'payload-lacks': 'This page lacks the runtime setting {path}.\n→ Start the server with the definition of this page.',
  'payload-value-wrong':
    'The runtime setting {path} has a value of another kind.\n→ Start the server with the definition of this page.',
  'payload-no-page': 'There is no page here.\n→ Send runtime settings to a worker in a message.',
} as const

/** The code of such a problem. */
export type RuntimeValueCode = keyof typeof RUNTIME_VALUE_TEXTS

/** The same as entries of the catalogue. */
export const runtimeValueProblems = () =>
  Object.fromEntries(
    Object.entries(RUNTIME_VALUE_TEXTS).map(([code, text]) => {
      const [message, hint] = text.split('\n→ ')
      return [code, error(message!, hint!)]
    }),
  ) as unknown as Record<RuntimeValueCode, CatalogueEntry>
