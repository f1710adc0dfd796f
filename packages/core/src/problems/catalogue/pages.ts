import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** What can be wrong with building a page and serving it. */
export const pageProblems = () => ({
  'plugin-twice': error(
    'The plugin of mappa-settings/vite is listed {count} times in the plugins of Vite.',
    'Keep one of them: two would check and replace the same values twice.',
  ),
  'plugin-shared': error(
    'One call of mappa() is used by two runs of Vite at once: {runs}.',
    'Call mappa() for each of them. The values of one stage could reach the page of another.',
  ),
  'plugin-option-wrong': error(
    'The option {option} of the plugin is wrong: it must be {needed}.',
    'Fix it where the plugin is called.',
  ),
  'plugin-option-unknown': error(
    'The plugin has no option {option}. The options are {options}.',
    'Use one of them.',
    'Did you mean {near}?',
  ),
  'stage-contradicted': error(
    'MAPPA_STAGE names the stage {stage}, and the mode of Vite is {mode}.',
    'Run Vite with --mode {stage}, or remove MAPPA_STAGE from the environment. For a framework that sets the mode by itself: mappa({ stage: process.env.MAPPA_STAGE }).',
  ),
  'stage-not-option': error(
    'MAPPA_STAGE names the stage {asked}, and the option stage of mappa() {stage}.',
    'Remove one of them, or write mappa({ stage: process.env.MAPPA_STAGE }).',
  ),
  'stage-not-mode': error(
    'This process has loaded settings of the stage {stage}, as vite.config may do, but the mode of Vite is {mode}.',
    'Set MAPPA_STAGE={mode} as well, or name the stage where they are loaded: loadSettings(definition, { stage: mode }).',
  ),
  'vite-too-old': error(
    'mappa-settings/vite needs Vite 6.3 or later, and this is an older one.',
    'Install a newer one: npm install --save-dev vite@latest',
  ),
  'own-reading-on': error(
    "A later plugin turns Vite's own reading of env files on again (envDir or envPrefix). Every variable with that prefix would reach pages, including secrets.",
    'Remove envDir and envPrefix from the plugins after mappa(). Settings for pages have public: true in the definition.',
  ),
  'bundled-while-serving': error(
    'experimental.bundledDev bundles all modules of a page before they can be checked, so secrets could reach the page.',
    'Turn it off to use mappa().',
  ),
  'module-unknown': error(
    'There is no module {asked}. There are virtual:mappa/browser for pages and virtual:mappa/server for servers.',
    'Import one of them.',
  ),
  'public-unknown': error(
    'There is no public setting {asked}.',
    'Give it public: true in the definition if any visitor may see it. Otherwise, do the work that needs it on a server.',
    'Did you mean {near}?',
  ),
  'server-in-page': error(
    '{target} is for servers only, but page code imports it.',
    'Import public settings from virtual:mappa/browser instead. An import of types only is allowed: import type.',
  ),
  'definition-in-page': error(
    'Page code imports the definition, and with it the names, descriptions and rules of all private settings.',
    'Import the values from virtual:mappa/browser instead. An import of types only is allowed: import type.',
  ),
  'env-file-in-page': error(
    'Page code imports {target}, which contains values of private settings.',
    'Import single public settings from virtual:mappa/browser instead.',
  ),
  'entry-in-page': error(
    '{target} is an entry or a script of the page, but is not allowed in pages.',
    'Remove it from the entries of the build and from the scripts of the page.',
  ),
  'address-in-page': error(
    'The page refers to {target}, which is not allowed in pages: every visitor could download it.',
    'Remove the URL. Public settings are in virtual:mappa/browser.',
  ),
  'read-not-public': error(
    'Page code reads {read}, but that setting is {what}, so it has no value in the page.',
    'Do the work that needs it on a server. Only if any visitor may see it, give {path} public: true.',
  ),
  'read-at-runtime': error(
    'Page code reads {read}, but that setting has no value at build time: its readAt is runtime.',
    'Read settings.{path} from virtual:mappa/browser; without Vite, from runtimeSettings() of mappa-settings/browser.',
  ),
  'read-unknown': error(
    'Page code reads {read}, but there is no such setting.',
    'Add it to the definition with public: true, or remove the read: its value would be undefined.',
    'Did you mean {near}?',
  ),
  'read-not-inlined': error(
    'Page code reads {read}, which is not replaced by a value.',
    "Read settings.{path} from virtual:mappa/browser, or have such reads replaced for now: mappa({ inlineReads: ['{object}'] }).",
  ),
  'read-not-replaced': error(
    'Page code reads {read} as {written}, which bundlers do not replace.',
    'Write exactly {read}: only that is replaced by its value.',
  ),
  'read-dynamic': error(
    'Page code reads {object} by a name that is only known at runtime.',
    'Write the name out, {object}.NAME, so that it can be replaced by a value.',
  ),
  'read-in-other-language': error(
    "Page code reads {object} in a file that is not JavaScript yet, so it can't be replaced by a value.",
    'Turn it into JavaScript first: put the plugin that does so before the one that reads or checks variables.',
  ),
  'patterns-not-checked': notice(
    'The patterns of {paths} were not checked for catastrophic backtracking, since the project does not have mappa-cli.',
    'Install it as a development dependency, in the same version: npm install --save-dev mappa-cli.',
  ),
  'reads-need-parser': error(
    'What page code reads could not be checked, since the project has no parser for JavaScript and TypeScript.',
    'Install mappa-cli as a development dependency, which brings one. That of Babel, @babel/parser, will do too.',
  ),
  'value-in-page': error(
    'The value of {name} would reach every visitor: it is in {file}{encoding}.',
    'Find out which code put it there, and do that work on a server. Rotate the value if the file was ever published.',
  ),
  'served-not-searched': notice(
    '{file} was not searched for private values before it was served: {why}.',
    'A build searches it, or says that it could not.',
  ),
  'env-file-served': error(
    '{target} would reach every visitor: {file} is that file, a copy of it, or contains all of it.',
    'Remove it from the files that are served. A page gets public settings from virtual:mappa/browser.',
  ),
  'env-file-in-output': error(
    '{file} would reach every visitor: it is in the directory of the finished page.',
    'Build into a directory that holds nothing but the page: set build.outDir to dist, for example.',
  ),
  'leaks-on-disk': notice(
    'These files are in the output of the build and must not be published: {files}. Mappa deleted nothing.',
    'If a build wrote them, fix the code and delete them. If something else needs them, set build.outDir to a directory that holds nothing but the page. If they were published, rotate the values.',
  ),
  'private-in-page': error(
    'The value of {name}, which is not public, would reach every visitor: it is in {file}{encoding}.',
    "Remove it from the page's code. If visitors may see it, give {path} public: true, or add mappa({ allowInPage: ['{name}'] }).",
  ),
  'payload-without-page': notice(
    'The code of this build reads runtime settings, but no page of the build has a placeholder for them.',
    'The server that renders the pages must put publicPayload(settings) of mappa-settings into their heads, or send fillPage(html, settings).',
  ),
  'types-not-written': notice(
    '{file} could not be updated: {reason}',
    'Run mappa write modules where the directory is writable, and commit the file.',
  ),
})

/** Makes a problem with building a page or serving it. */
export const pageProblem = /* @__PURE__ */ problemFactory(pageProblems)
