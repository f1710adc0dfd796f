import { entry } from './entry.ts'

type InStage = { stages: readonly string[] }

/** What can be wrong with files and stages. */
export const fileProblems = {
  'file-is-folder': entry<{ file: string }>(
    'error',
    ({ file }) => `${file} is a folder; a file is needed here.`,
    ({ file }) =>
      `Move the folder away, or give it another name. It may have come from a container that mounted ${file} before it existed.`,
  ),
  'file-no-permission': entry<{ file: string }>(
    'error',
    ({ file }) => `${file} may not be read by this user.`,
    ({ file }) =>
      `Give this user the right to read it (ls -l ${file} shows whose it is), or run the program as its owner.`,
  ),
  'file-not-regular': entry<{ file: string }>(
    'error',
    ({ file }) => `${file} is neither a file nor a link to one.`,
    () =>
      'Pipes, sockets and devices are not read, since reading one may wait for ever. Put a plain file in its place.',
  ),
  'file-link-broken': entry<{ file: string }>(
    'error',
    ({ file }) => `${file} is a link to a file that does not exist.`,
    ({ file }) => `Create the file it points to, or take the link away (ls -l ${file} shows where it points).`,
  ),
  'file-unreadable': entry<{ file: string; reason: string }>(
    'error',
    ({ file, reason }) => `${file} can't be read: ${reason}.`,
    () => 'The reason comes from the operating system; the disk or the network drive may be the cause.',
  ),
  'file-name-near': entry<{ file: string; meant: string }>(
    'notice',
    ({ file, meant }) => `${file} is not read; the name ${meant} is.`,
    ({ file, meant }) => `If it was meant for this project, rename it: mv ${file} ${meant}`,
  ),
  'root-missing': entry<{ root: string }>(
    'error',
    ({ root }) => `The project folder ${root} does not exist or can't be listed.`,
    () => 'Give the folder that holds the .env files.',
  ),
  'stage-unknown': entry<InStage & { stage: string; from: string; near: string | null }>(
    'error',
    ({ stage, from, stages }) => `There is no stage ${stage} (named by ${from}). The stages are ${stages.join(', ')}.`,
    ({ near }) =>
      near === null
        ? 'Name one of them, or add the stage to the definition: defineSettings({ ... }, { stages: [...] }).'
        : `Did you mean ${near}?`,
  ),
}
