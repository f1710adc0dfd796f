import { error, notice } from './entry.ts'

/** What can be wrong with building a page and serving it. */
export const pageProblems = () => ({
  'plugin-twice': error(
    'The plugin of mappa/vite stands {count} times among the plugins of Vite.',
    'Leave one of them: two would check and replace the same values twice.',
  ),
  'plugin-option-wrong': error(
    'The option {option} of the plugin is wrong: it must be {needed}.',
    'Correct it where the plugin is called.',
  ),
  'plugin-option-unknown': error(
    'The plugin has no option {option}. The options are {options}.',
    'Use one of them.',
    'Did you mean {near}?',
  ),
  'stage-contradicted': error(
    'MAPPA_STAGE names the stage {stage}, and the mode of Vite is {mode}.',
    'Run Vite with --mode {stage}, or take MAPPA_STAGE out of the environment.',
  ),
  'vite-too-old': error(
    'mappa/vite needs Vite 6.3 or later, and this is an older one.',
    'Install a newer one: npm install --save-dev vite@latest',
  ),
  'own-reading-on': error(
    'Something behind the plugin turns the reading of env files by Vite on again: envDir or envPrefix. Every variable that begins so would reach pages, secrets too.',
    'Take envDir and envPrefix out of the plugins behind mappa(). What pages may know is public: true in the definition.',
  ),
  'bundled-while-serving': error(
    'experimental.bundledDev puts all modules of a page into one file before anything can look at them, so the border would not hold.',
    'Turn it off while mappa() is among the plugins.',
  ),
  'module-unknown': error(
    'There is no module {asked}. There are virtual:mappa/browser for pages and virtual:mappa/server for servers.',
    'Import one of them.',
  ),
  'public-unknown': error(
    'There is no public setting {asked}.',
    'Give it public: true in the definition if any visitor may see it. If not, a server has to do what needs it.',
    'Did you mean {near}?',
  ),
  'public-not-data': error(
    'The value of {path} is no data that could be handed to a page: it holds a function, an object with a class of its own, or itself.',
    'Convert it in the page rather than in the definition.',
  ),
  'server-in-page': error(
    '{target} is for servers alone, and page code imports it.',
    'Import what the page may know from virtual:mappa/browser instead. What is only a type can stay: import type.',
  ),
  'definition-in-page': error(
    'Page code imports the definition, and with it the names, descriptions and rules of all private settings.',
    'Import the values from virtual:mappa/browser instead. A type can stay: import type.',
  ),
  'env-file-in-page': error(
    'Page code imports {target}, which holds values of private settings.',
    'Import single public settings from virtual:mappa/browser instead.',
  ),
  'entry-in-page': error(
    '{target} is an entry of the page, and no page may have it.',
    'Take it out of the entries of the build, and of the scripts of the page.',
  ),
  'address-in-page': error(
    'The page points to {target}, which no page may have, so it would be handed out to every visitor.',
    'Take the address out. What the page may know is in virtual:mappa/browser.',
  ),
  'read-not-public': error(
    'Page code reads {read}, and that setting is {what}, so the page has no value for it.',
    'Do what needs it on a server. Only if any visitor may see it, give {path} public: true.',
  ),
  'read-at-runtime': error(
    'Page code reads {read}, and that setting has no value before the page is opened: readAt is runtime.',
    'Read settings.{path}, of virtual:mappa/browser; without Vite, of runtimeSettings() from mappa/browser.',
  ),
  'read-unknown': error(
    'Page code reads {read}, and no setting has that name.',
    'Add it to the definition, with public: true, or take the reading out: its value would be undefined.',
    'Did you mean {near}?',
  ),
  'read-not-inlined': error(
    'Page code reads {read}, and nothing puts a value there any more.',
    "Read settings.{path} from virtual:mappa/browser, or keep such reads for a while: mappa({ inlineReads: ['{object}'] }).",
  ),
  'read-not-replaced': error(
    'Page code reads {read} as {written}, and bundlers leave that as it is.',
    'Write {read}, letter by letter: only that is replaced by its value.',
  ),
  'read-dynamic': error(
    'Page code reads {object} by a name that only shows when the page runs.',
    'Write the name out: {object}.NAME. Only then can a value stand in its place.',
  ),
  'read-in-other-language': error(
    'Page code reads {object} in a file that is no JavaScript yet, so no value can stand in its place.',
    'Turn it into JavaScript first: put the plugin that does so before the one that reads or checks variables.',
  ),
  'value-in-page': error(
    'The value of {name} would reach every visitor: it stands in {file}{encoding}.',
    'Find out which code put it there, and have a server do that work. Replace the value if the file was ever published.',
  ),
  'env-file-served': error(
    '{target} would reach every visitor: {file} is that file, a copy of it, or holds all of it.',
    'Take it out of what is served. A page gets what it may know from virtual:mappa/browser.',
  ),
  'leaked-files-deleted': notice(
    'What leaked lay on the disk already, and was deleted: {files}.',
    'Build again when it is out of the code. If it was published already, replace the values.',
  ),
  'public-is-private': error(
    '{name} is public, and its value is that of {other}, which is {what}.',
    'Give {name} a value of its own. If everybody may read {other}, give that public: true instead.',
  ),
  'public-refers-to-private': error(
    '{name} is public, and refers to {other}, which is {what}.',
    'Take the reference out. If everybody may read {other}, give that public: true instead.',
  ),
  'private-in-page': error(
    'The value of {name}, which is not public, would reach every visitor: it stands in {file}{encoding}.',
    "Take it out of the page's code. If visitors may see it, give {path} public: true, or say mappa({ allowInPage: ['{name}'] }).",
  ),
  'allow-in-page-wrong': error(
    'The option allowInPage names {name}, and {reason}.',
    'Name private settings alone, by their variable names. A secret may never appear.',
    'Did you mean {near}?',
  ),
  'pages-without-place': error(
    'No page in {folder} has a place for runtime settings.',
    'Build the page with mappa/vite, or put this into its head: {element}',
  ),
  'payload-without-page': notice(
    'The code of this build reads runtime settings, and no page of the build has a place for them.',
    'Whoever makes the pages puts publicPayload(settings) of mappa into their heads, or sends fillPage(html, settings).',
  ),
  'types-not-written': notice(
    '{file} could not be brought up to date: {reason}',
    'Run mappa write modules where the folder can be written to, and commit the file.',
  ),
})
