/** Functions that take a port. */
export const LISTENS: ReadonlySet<string> = new Set([
  'listen',
  'ListenAndServe',
  'ListenAndServeTLS',
  'Run',
  'run',
  'start',
  'createServer',
  'serve',
  'bind',
  'connect',
  'createConnection',
])

/** Functions that take an address and talk to it. */
export const CALLS: ReadonlySet<string> = new Set([
  'fetch',
  'connect',
  'request',
  'get',
  'post',
  'put',
  'patch',
  'delete',
  'axios',
  'WebSocket',
  'EventSource',
  'urlopen',
  'Get',
  'Post',
  'NewRequest',
  'Dial',
  'file_get_contents',
  'curl',
  'curl_init',
  'wget',
  'io',
  'URI',
  'Uri',
  'uri',
  'open_uri',
  'Head',
  'openStream',
])

/** Functions and classes that connect to a host. */
export const CONNECTS: ReadonlySet<string> = new Set([
  'SMTP',
  'SMTP_SSL',
  'IMAP4',
  'IMAP4_SSL',
  'FTP',
  'connect',
  'createConnection',
  'Dial',
  'dial',
  'Socket',
])

/** Functions that take a password. */
export const LOGS_IN: ReadonlySet<string> = new Set([
  'login',
  'logIn',
  'signIn',
  'authenticate',
  'auth',
  'basicAuth',
  'SetBasicAuth',
  'basic_auth',
  'Sequelize',
  'HTTPBasicAuth',
  'NetworkCredential',
  'getConnection',
  'PDO',
  'mysqli',
  'mysqli_connect',
  'UsernamePasswordCredentials',
  'PasswordAuthentication',
  'BasicAuthCredentials',
  'Credentials',
  'PlainAuth',
  'CRAMMD5Auth',
  'AUTH',
  'BasicAuth',
  'set_password',
])

/** Functions of cryptography that take a key. */
export const KEYED: ReadonlySet<string> = new Set([
  'createHmac',
  'createCipheriv',
  'createDecipheriv',
  'createSecretKey',
  'sign',
  'verify',
  'pbkdf2',
  'pbkdf2Sync',
  'scrypt',
  'scryptSync',
  'importKey',
  'new_from_slice',
  'NewCookieStore',
  'SignedString',
  'SymmetricSecurityKey',
  'Hmac',
  'SecretKeySpec',
  'hash_hmac',
  'hexdigest',
])

/** Functions of tokens, whose second argument is a key. */
export const SIGNS: ReadonlySet<string> = new Set(['sign', 'verify', 'createHmac'])
