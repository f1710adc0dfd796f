import { problemFactory } from '../factory.ts'
import { error, notice } from './entry.ts'

/** Secrets where they must not be. */
export const guardProblems = () => ({
  'secret-not-ignored': error(
    '{file} contains secrets ({names}), and git does not ignore it: git add would add it.',
    'Move the secrets into {local}, which git should ignore.',
  ),
  'local-secret-not-ignored': error(
    '{file} contains secrets ({names}), and git does not ignore it: git add would add it.',
    'Add {rule} to .gitignore.',
  ),
  'local-not-ignored': notice(
    '{file} belongs to this machine, and git does not ignore it.',
    'Add {rule} to .gitignore.',
  ),
  'secret-tracked': error(
    'git tracks {file}, which contains secrets ({names}).',
    'Run git rm --cached {file}, have git ignore it, and rotate the secrets: whoever has the repository has them.',
  ),
  'secret-readable': error(
    '{file} contains secrets ({names}), and other users of this machine can read it.',
    'Run chmod 600 {file}.',
  ),
  'env-file-committed': error(
    '{file} was committed, in {commit}. Deleting the file does not remove it from the history.',
    'Rotate every key that was in it; then it no longer matters who has the history.',
  ),
  'secret-committed': error(
    'The value of {name} is in {file} in commit {commit}{encoding}, which {holders}. Deleting it does not remove it from the history.',
    'Rotate {name}: revoke it where it was issued, write the new value with mappa set {name}, and start again what uses it. Rewriting the history comes after that, and reaches no copy.',
    'Revoke the former value of {near} where it was issued: only that ends the leak. Rewriting the history reaches no copy.',
  ),
  'secret-in-message': error(
    'The value of {name} is in the message of commit {commit}{encoding}.',
    'Rotate {name}, and write the new value with mappa set.',
    'Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'secret-in-tag': error(
    'The value of {name} is in the tag {tag}{encoding}.',
    'Rotate {name}, and write the new value with mappa set.',
    'Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'secret-in-file-name': error(
    'The value of {name} is in the name of a file in commit {commit}{encoding}.',
    'Rotate {name}, and write the new value with mappa set.',
    'Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'credential-staged': error(
    '{file} has a credential that no setting has yet, and is staged for the next commit: {name} ({why}).',
    'Move it out of the code with mappa move. If it opens nothing, say so in a comment on its line or the one above: mappa-ignore: <reason>',
  ),
  'credential-in-code': error(
    '{file} has a credential that no setting has yet: {name} ({why}).',
    'Move it out of the code with mappa move. If it opens nothing, say so in a comment on its line or the one above: mappa-ignore: <reason>',
  ),
  'secret-in-path': error(
    'The value of {name} is in the name {file}, which {where}{encoding}.',
    'Rename the file or the directory, and rotate {name} if the name was ever published.',
    'Rename it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'not-searched': error(
    '{what} was not searched: {why}.',
    'Make it readable and look again; as long as it is not, nobody knows what is in it.',
  ),
  'not-understood': error(
    'Searched byte by byte only, since no decoder here opens them: {type} ({count}), such as {examples}.',
    'Look into them with a program of their own, or leave out --strict.',
  ),
  'secret-staged': error(
    'The value of {name} is in {file}, which is staged for the next commit{encoding}.',
    'Remove it and stage the file again. Read the value from the settings instead.',
    'Remove it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'env-file-staged': error(
    '{file} is staged for the next commit, and belongs to this machine alone.',
    'Run git restore --staged {file}, and have git ignore it.',
  ),
  'env-file-published': error(
    'npm publish would include {file}.',
    'List what is to be published under "files" in package.json, or name the file in .npmignore.',
  ),
  'secret-published': error(
    'npm publish would include {file}, which has the value of {name}{encoding}.',
    'Find out which code put it there, and build again. Rotate {name} if the package was ever published.',
    'Build again without it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'env-file-in-image': error(
    'A Docker build would include {file} in its context: {dockerignore}.',
    'Add **/.env and **/.env.* to the ignore file of the build, and give the container its values when it starts.',
  ),
  'secret-in-tracked': error(
    'The value of {name} is in {file}, which git tracks or does not ignore{encoding}.',
    'Remove it, and read it from the settings instead: mappa move does both. Rotate {name} if it was ever committed.',
    'Remove it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'secret-in-version': error(
    'The value of {name} is no longer in {file} on the disk, but git has the file with it, staged or in the last commit{encoding}.',
    'Stage the file as it is now, and commit it. Rotate {name} if it was ever committed: mappa guard --history tells.',
    'Stage the file as it is now, and commit it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'credential-in-env-file': error(
    '{file} looks like an env file with credentials ({names}), and git tracks it or would add it.',
    'Declare them as secrets and keep their values in a .local file; delete a copy that nothing reads.',
    'Add .env.local and .env.*.local to .gitignore if {near} belongs to a program; delete a copy that nothing reads.',
  ),
  'secret-in-output': error(
    'The value of {name} is in {file}{encoding}.',
    'Find out which code put it there: a build must not contain a secret. Rotate {name} if the file was ever published.',
    'Remove it. Revoke the former value of {near} where it was issued: only that ends the leak.',
  ),
  'credential-not-secret': notice(
    'The value of {name} in {from} contains a credential, but {path} is not a secret: reports and logs show it.',
    'Declare {path} with secret: true, and keep its value in a .local file.',
  ),
  'credential-to-commit': error(
    'The value for {name} contains a credential, but {path} is not a secret: it would go into {file}, which is committed.',
    'Declare {path} with secret: true, and write it again; or write it into the .local file of this machine (--local).',
  ),
  'secret-not-searchable': notice(
    'The value of {name} is too short or too common to be searched for.',
    'A secret should be long and random: mappa set {name} --random 24 makes one.',
  ),
  'former-in-use': error(
    'The former value of {of} is the value of {name} in {stage}.',
    'Write the new one: mappa set {name} --stage {stage}.',
  ),
  'former-not-searchable': error(
    'The former value of {name} is empty, too short or too common to be searched for.',
    'Give all of it: it is asked for, or read from standard input.',
  ),
  'path-missing': error("{file} does not exist or can't be read.", 'Name an existing file or directory.'),
  'hook-foreign': error(
    'There is a pre-commit hook at {file} that is not a shell script, so nothing was added to it.',
    'Make it run: {command}',
  ),
  'hook-without-command': error(
    'The hook would find no mappa to run, so it would stop every commit.',
    'Install it for this project, npm install --save-dev mappa-cli, or for all of them, npm install --global mappa-cli; then try again.',
  ),
  'hooks-elsewhere': error(
    'The hooks of git are in {directory}, outside of this repository, where others may use them too.',
    'Have the pre-commit hook there run: mappa guard --staged --repository. Or use hooks of this repository alone: git config core.hooksPath .git/hooks',
  ),
  'repository-missing': error('There is no git repository here.', 'Run git init first, or leave out {option}.'),
})

/** Makes a problem with what is committed, published or served. */
export const guardProblem = /* @__PURE__ */ problemFactory(guardProblems)
