import { error, notice } from './entry.ts'

/** Where a value belongs, as the hints of `missing` and `empty` say it in their word `put`. */
export const WHERE_TO_PUT = {
  secret:
    'Add {name}=... to {local}, which stays on this machine and out of git, or set it in the process environment.',
  other: 'Add {name}=... to {file} (or to {shared} for all stages), or set it in the process environment.',
}

/** What can be wrong with the value of a setting. */
export const valueProblems = () => ({
  missing: error('{name} is not set. {description}.', '{put}', 'Rename {near} if that was meant. Otherwise: {put}'),
  empty: error('{name} is empty in {from}, and a value is required. {description}.', '{put}'),
  'value-unresolved': error(
    '{name} has no value although it is required, and nothing says why.',
    'This is a fault of Mappa. Set {name} to a plain value until it is fixed.',
  ),
  'missing-then': error('{name} is not set, and is required because {why}. {description}.', '{put}'),
  'forbidden-then': error(
    '{name} is set, and must not be while {why}.',
    'Take {name} out, or change the other setting.',
  ),
  'name-former': notice('{former} is the former name of {name}; its value is used.', 'Rename {former} to {name}.'),
  'name-former-unused': notice(
    '{former} is the former name of {name}, which is set as well; the value of {former} is not used.',
    'Take {former} out.',
  ),
  'setting-deprecated': notice('{name} is on its way out.', 'Take it out; nothing takes its place.', '{near}'),
  'value-is-word': notice(
    '{name} is {shown}, a word for nothing, which a program may have written where it had no value.',
    'Take the line out if no value was meant; write a rule for {name} into the definition (pattern) if the word is right.',
  ),
  'value-in-quotes': notice(
    '{name} has quotes at both ends of its value, as part of it.',
    'Take one pair of quotes away: those around a value in an env file are no part of it, others are.',
  ),
  'value-has-blanks': notice(
    '{name} begins or ends with a blank or a line end, as part of its value.',
    'Take it away; nobody sees it, and comparisons fail on it.',
  ),
  'value-shared': error(
    '{name} has the same value in {stages}, and no two stages may share it.',
    'Give each stage a value of its own; mappa set {name} --stage STAGE writes one.',
  ),
  'placeholder-left': error(
    '{name} still has the placeholder of the example file.',
    'Put the real value in its place, or take the line out.',
  ),
  'empty-hides-value': notice(
    '{name} is empty in {from}, which hides the value in {hidden}.',
    'Take it out of {from} if the other value was meant.',
  ),
  'rotation-due': notice(
    '{name} was set on {day} and should have been replaced by {due}.',
    'Make a new one where it is issued, then write it with mappa set {name}.',
  ),
  'rotation-unknown': notice(
    '{name} is to be replaced from time to time ({rotate}), and nothing says when it was set.',
    'Write it with mappa set {name}, which notes the day; or write # set and the day, such as # set {today}, in a line above it.',
  ),
  'name-near': notice(
    '{name} is not a setting of this project; {meant} is.',
    'Rename {name} to {meant}, or add {name} to the definition if it is another one.',
  ),
  'names-not-compared': notice(
    '{layer} has {count} more names that are no settings, and they were not compared with the names of settings.',
    'If a value seems to be missing, look for a misspelt name there.',
  ),
  'not-integer': error(
    '{name} must be a whole number; it is {shown}.',
    'Write digits only, with a - before them if need be: no unit, no separator, no leading zero, no fraction.',
  ),
  'integer-inexact': error(
    '{name} is {shown}, a whole number too large to be held exactly.',
    'Use a number from -9007199254740991 to 9007199254740991, or declare the setting as a string.',
  ),
  'not-number': error(
    '{name} must be a number; it is {shown}.',
    'Write it as in JSON: 12, -0.5 or 1.5e3, without a unit, a separator or a leading zero.',
  ),
  'number-too-large': error('{name} is {shown}, beyond what a number can hold.', 'Use a number up to about 1.79e308.'),
  'not-boolean': error(
    '{name} must be true or false; it is {shown}.',
    'Write true or false (yes and no, on and off, 1 and 0 do as well).',
  ),
  'not-port': error(
    '{name} must be a port, a whole number from 1 to 65535; it is {shown}.',
    'Write the number of the port alone, such as 4100.',
  ),
  'not-url': error(
    '{name} must be a whole address; it is {shown}.',
    'Write it with its scheme and its host, such as https://dome.fernhollow.example/.',
    'Write the scheme as well, such as {near}.',
  ),
  'not-in-enum': error(
    '{name} must be one of {choices}; it is {shown}.',
    'Write one of them, in just that case.',
    'Did you mean {near}?',
  ),
  'not-email': error(
    '{name} must be an email address; it is {shown}.',
    'Write the address alone, such as desk@fernhollow.example.',
  ),
  'not-hostname': error(
    '{name} must be the name of a host; it is {shown}.',
    'Write the name alone, such as dome.fernhollow.example: letters, digits and hyphens, with dots between them.',
    'Write the name alone, such as {near}.',
  ),
  'not-ip': error(
    '{name} must be an IP address; it is {shown}.',
    'Write it as 10.4.0.12, without leading zeros, or as 2001:db8::1.',
  ),
  'ip-version-wrong': error(
    '{name} must be an address of IPv{version}; it is {shown}.',
    'Use an address of IPv{version}.',
  ),
  'not-uuid': error(
    '{name} must be a UUID; it is {shown}.',
    'Write 32 hexadecimal digits in groups of 8, 4, 4, 4 and 12, with hyphens between them.',
  ),
  'not-date-time': error(
    '{name} must be a date and time with a zone (RFC 3339); it is {shown}.',
    'Write it as 2026-11-23T18:30:00Z, or with +01:00 in the place of the Z.',
  ),
  'date-time-out-of-range': error(
    '{name} is {shown}, which the calendar or the clock does not have.',
    'Check the month, the day, the hour and the zone.',
  ),
  'not-duration': error(
    '{name} must be a duration; it is {shown}.',
    'Write numbers with units, the largest first: 500ms, 15m, 1h30m, 2d; or as in ISO 8601: PT15M.',
    'Say which unit is meant: {near}ms, {near}s or {near}m.',
  ),
  'duration-too-long': error('{name} is {shown}, too long to be counted in milliseconds.', 'Use a shorter duration.'),
  'not-size': error(
    '{name} must be a size; it is {shown}.',
    'Write a number with a unit: B, kB, MB, GB, TB (thousands) or KiB, MiB, GiB, TiB (1024s).',
    'Write {near}.',
  ),
  'size-inexact': error(
    '{name} is {shown}, which is no whole number of bytes that can be held exactly.',
    'Use another unit.',
  ),
  'not-path': error(
    '{name} must be a path, and it holds a NUL character.',
    'Write the path anew; something else was copied along.',
  ),
  'path-not-there': error(
    '{name} names {shown}, and there is nothing of that name.',
    'Create it, or mend the path; a relative one begins in {root}.',
  ),
  'not-base64': error(
    '{name} must be bytes in base64 (RFC 4648); it is {shown}.',
    'Use letters, digits, + and / (or - and _), without blanks. To encode a file: base64 -w0 FILE.',
  ),
  'bytes-wrong': error('{name} must hold {needed} bytes; it holds {length}.', 'Check that the whole value was copied.'),
  'pem-not-begun': error(
    '{name} must be PEM text (RFC 7468), and no line -----BEGIN ...----- begins it.',
    'Copy the whole of it, first and last line included, between quotes.',
  ),
  'pem-not-ended': error(
    '{name} has no line -----END {label}----- where its {label} ends.',
    'Copy the whole of it, last line included, between quotes.',
  ),
  'pem-broken': error(
    '{name} is PEM text with something in it that is no base64, or with nothing in it.',
    'Copy it again; an editor or a blank may have broken its lines.',
  ),
  'pem-truncated': error(
    '{name} is PEM text whose content is not whole: its length is not the one it states.',
    'Copy the whole of it again, every line between the first and the last.',
  ),
  'pem-label-wrong': error(
    '{name} must be PEM text with the label {needed}; it has {found}.',
    'Use the right file: a certificate is no key, and an older form of key may have to be converted.',
  ),
  'not-json': error(
    '{name} must be JSON; what stands there is none, from {at} on.',
    'Put single quotes around the whole value, and double quotes around names and texts within: \'{"places": 12}\'.',
  ),
  'json-too-deep': error(
    '{name} is JSON with more than {most} levels, one within the other.',
    'Use a flatter form, or keep the data in a file and put its path into the setting.',
  ),
  'item-empty': error('{name} is empty.', 'Take out the separator that is too many.'),
  'too-few-items': error(
    '{name} must have at least {limit} items; it has {length}.',
    'Add some, with the separator between them.',
  ),
  'too-many-items': error('{name} must have at most {limit} items; it has {length}.', 'Take some out.'),
  'item-twice': error('{name} has the same value as item {first} and as item {second}.', 'Take one of them out.'),
  'check-refused': error(
    '{name} is refused by a check of this project: {why}.',
    'Change the value so that the check lets it pass.',
  ),
  'check-not-at-once': error(
    '{name} has a check that answers later (a promise), and settings are needed at once.',
    'Use a check that answers at once; this is a fault of the definition.',
  ),
  'check-gives-nothing': error(
    '{name} has a check that gives back neither a value nor a reason.',
    'Have it give back true or what is wrong (a conversion: the value); this is a fault of the definition.',
  ),
  'below-minimum': error('{name} must be at least {limit}; it is {shown}.', 'Write {limit} or a larger number.'),
  'not-above': error('{name} must be more than {limit}; it is {shown}.', 'Write a number larger than {limit}.'),
  'above-maximum': error('{name} must be at most {limit}; it is {shown}.', 'Write {limit} or a smaller number.'),
  'not-below': error('{name} must be less than {limit}; it is {shown}.', 'Write a number smaller than {limit}.'),
  'not-multiple': error('{name} must be a multiple of {of}; it is {shown}.', 'Write a multiple of {of}.'),
  'too-short': error(
    '{name} must have at least {limit} characters; it has {length}.',
    'Check that the whole value was copied.',
  ),
  'too-long': error(
    '{name} must have at most {limit} characters; it has {length}.',
    'Check that nothing else was copied along with the value.',
  ),
  'pattern-not-tried': error(
    '{name} has {length} characters, and its pattern is tried on {most} at most, since that could take very long.',
    'Shorten it, or declare how long it may be: { maxLength: {length} }.',
  ),
  'pattern-differs': error(
    '{name} does not fit the pattern {pattern}; it is {shown}.',
    'Give it a value that fits {pattern}, the rule of the definition.',
  ),
})
