import { error } from './entry.ts'

/** What a page can find wrong with its start-time settings. These alone reach a browser. */
export const startValueProblems = () => ({
  'payload-missing': error(
    'This page has no element mappa-settings with start-time settings.',
    'Have the server put publicPayload(settings) into this page, or call fillPages for static files.',
  ),
  'payload-empty': error(
    'The element mappa-settings of this page is empty.',
    'Have the server send fillPage(html, settings), or call fillPages for static files.',
  ),
  'payload-twice': error(
    'This page has more than one element mappa-settings.',
    'Leave the one that the server made.',
  ),
  'payload-broken': error(
    'The element mappa-settings of this page holds no JSON.',
    'Leave what the server made as it is.',
  ),
  'payload-lacks': error(
    'This page lacks the start-time setting {path}.',
    'Start the server with the definition of this page.',
  ),
  'payload-value-wrong': error(
    'The start-time setting {path} is of another kind.',
    'Start the server with the definition of this page.',
  ),
  'payload-no-page': error('There is no page here.', 'Hand start-time settings to a worker in a message.'),
})
