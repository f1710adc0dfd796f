import assert from 'node:assert/strict'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { run } from './project.ts'

/**
 * Makes a certificate for this machine that nobody else has signed, valid between two moments.
 *
 * @param directory where its files go: `cert.pem` and `key.pem`
 */
export function certificate(directory: string, [start, end]: readonly [start: string, end: string]) {
  const openssl = (...words: string[]) => assert.equal(run('openssl', words, directory).status, 0, words.join(' '))
  const policy = 'database=db\nserial=serial\nnew_certs_dir=.\npolicy=policy\ndefault_md=sha256\ncopy_extensions=copy\n'
  writeFileSync(join(directory, 'ca.cnf'), `[ca]\ndefault_ca=own\n[own]\n${policy}[policy]\ncommonName=supplied\n`)
  writeFileSync(join(directory, 'db'), '')
  writeFileSync(join(directory, 'serial'), '01\n')
  const subject = ['-subj', '/CN=127.0.0.1', '-addext', 'subjectAltName=IP:127.0.0.1']
  openssl('req', '-newkey', 'rsa:2048', '-nodes', ...subject, '-keyout', 'key.pem', '-out', 'request.pem')
  const dates = ['-startdate', start, '-enddate', end]
  openssl(
    'ca',
    '-batch',
    '-config',
    'ca.cnf',
    '-selfsign',
    '-keyfile',
    'key.pem',
    '-in',
    'request.pem',
    ...dates,
    '-out',
    'cert.pem',
  )
  const text = (file: string) => readFileSync(join(directory, file), 'utf8')
  return { cert: text('cert.pem'), key: text('key.pem') }
}
