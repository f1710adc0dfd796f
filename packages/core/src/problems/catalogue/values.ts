import { error, notice } from './entry.ts'

/** Where a value belongs, as the hints of `missing` and `empty` say it in their word `put`. */
export const WHERE_TO_PUT = {
  secret:
    'Add {name}=... to {local}, which stays on this machine and out of git, or set it in the process environment.',
  other: 'Add {name}=... to {file} (or to {shared} for all stages), or set it in the process environment.',
  shared: '{file}, or for all packages to {below}',
  programs: 'It is for {programs} only: with --program, or the option program, another one starts without.',
}

/** What can be wrong with the value of a setting. */
export const valueProblems = () => ({
  missing: error('{name} is not set. {description}.', '{put}', 'Rename {near} if that was meant. Otherwise: {put}'),
  empty: error('{name} is empty in {from}, and a value is required. {description}.', '{put}'),
  'value-unresolved': error(
    '{name} is required but has no value, and no other problem explains why.',
    'This is a bug in Mappa. Set {name} to a plain value until it is fixed.',
  ),
  'missing-then': error('{name} is not set, and is required because {why}. {description}.', '{put}'),
  'forbidden-then': error(
    '{name} is set, but must not be set while {why}.',
    'Remove {name}, or change the other setting.',
  ),
  'not-ascending': error('The settings break the rule {rule}: {values}.', 'Change one of the two.', '{near}'),
  'not-exactly-one': error(
    'The settings break the rule that {rule}: {values}.',
    'Set one of {names}, and remove the others.',
    '{near}',
  ),
  'not-at-least-one': error('The settings break the rule that {rule}: {values}.', 'Set one of {names}.', '{near}'),
  'not-all-or-none': error(
    'The settings break the rule that {rule}: {values}.',
    'Set all of {names}, or remove them.',
    '{near}',
  ),
  'sum-out-of-range': error('The settings break the rule that {rule}: {values}.', 'Change one of {names}.', '{near}'),
  'rule-refused': error('A check of this project refuses {names}: {why}. {values}.', 'Change one of them.', '{near}'),
  'name-former': notice('{former} is the former name of {name}; its value is used.', 'Rename {former} to {name}.'),
  'name-former-unused': notice(
    '{former} is the former name of {name}, which is set as well; the value of {former} is ignored.',
    'Remove {former}.',
  ),
  'setting-deprecated': notice('{name} is deprecated.', 'Remove it; it has no replacement.', '{near}'),
  'value-is-word': notice(
    '{name} is {shown}, which looks like a stringified null or undefined.',
    'Remove the line if no value was meant. If the text is right, add a pattern for {name} to the definition.',
  ),
  'value-in-quotes': notice(
    'The value of {name} begins and ends with quotes that are part of the value.',
    'Remove one pair of quotes: only the quotes around a value in an env file are not part of it.',
  ),
  'value-has-blanks': notice(
    'The value of {name} begins or ends with whitespace that is part of the value.',
    'Remove it: it is invisible, and comparisons fail because of it.',
  ),
  'value-shared': error(
    '{name} has the same value in {stages}, and no two stages may share it.',
    'Give each stage a value of its own; mappa set {name} --stage STAGE writes one.',
  ),
  'placeholder-left': error(
    '{name} still has the placeholder of the example file.',
    'Replace it with the real value, or remove the line.',
  ),
  'empty-hides-value': notice(
    '{name} is empty in {from}, which overrides the value in {hidden}.',
    'Remove it from {from} if the other value was meant.',
  ),
  'rotation-due': notice(
    '{name} was set on {day} and had to be rotated by {due}: it is overdue.',
    'Issue a new one, then write it with mappa set {name}.',
  ),
  'former-overdue': notice(
    '{name} was to be accepted until {end}, and still is.',
    'Remove its line when nobody uses the former value any more: until then, whoever has it gets in.',
  ),
  'former-undated': notice(
    '{name} is to be accepted for {time}, but the day since which it is the former value is not recorded.',
    'Add a comment with the day above it, such as # set {today}; mappa set {present} writes it.',
  ),
  'former-is-present': notice(
    '{name} has the same value as {present}.',
    'Remove its line, or write the new value with mappa set {present}.',
  ),
  'rotation-unknown': notice(
    '{name} must be rotated every {rotate}, but the day it was set is not recorded.',
    'Write it with mappa set {name}, which records the day; or add a comment with the day above it, such as # set {today}.',
  ),
  'name-near': notice(
    '{name} is not a setting of this project; {meant} is.',
    'Rename {name} to {meant}, or add {name} to the definition if it is another one.',
  ),
  'names-not-compared': notice(
    '{layer} has {count} more variables that are not settings; they were not checked for misspelled names.',
    'If a value seems to be missing, look for a misspelled name there.',
  ),
  'value-of-other-kind': error(
    '{name} must be of the kind {kind}; it is {shown}.',
    'Give a value of the kind, or a text that the kind reads.',
  ),
  'not-integer': error(
    '{name} must be a whole number; it is {shown}.',
    'Write digits only, with a - before them if need be: no unit, no separator, no leading zero, no fraction.',
  ),
  'integer-inexact': error(
    '{name} is {shown}, a whole number too large to be represented exactly.',
    'Use a number from -9007199254740991 to 9007199254740991, or declare the setting as a string.',
  ),
  'not-number': error(
    '{name} must be a number; it is {shown}.',
    'Write it as in JSON: 12, -0.5 or 1.5e3, without a unit, a separator or a leading zero.',
  ),
  'number-too-large': error(
    '{name} is {shown}, which is too large for a number.',
    'Use a number up to about 1.79e308.',
  ),
  'not-boolean': error(
    '{name} must be true or false; it is {shown}.',
    'Write true or false (yes and no, on and off, 1 and 0 do as well).',
  ),
  'not-port': error(
    '{name} must be a port, a whole number from 1 to 65535; it is {shown}.',
    'Write a number from 1 to 65535 and nothing else, such as 4100.',
  ),
  'not-url': error(
    '{name} must be an absolute URL; it is {shown}.',
    'Write one, with scheme and host, such as https://dome.fernhollow.example/; for several there is setting.list.',
    'Write the scheme as well, such as {near}.',
  ),
  'not-in-enum': error(
    '{name} must be one of {choices}; it is {shown}.',
    'Use one of them; upper and lower case matter.',
    'Did you mean {near}?',
  ),
  'not-email': error(
    '{name} must be an email address; it is {shown}.',
    'Write the address alone, such as desk@fernhollow.example.',
  ),
  'not-hostname': error(
    '{name} must be a hostname; it is {shown}.',
    'Write the name alone, such as dome.fernhollow.example: letters, digits and hyphens, with dots between them.',
    'Write the name alone, such as {near}.',
  ),
  'not-ip': error(
    '{name} must be an IP address; it is {shown}.',
    'Write it as 10.4.0.12, without leading zeros, or as 2001:db8::1.',
  ),
  'ip-version-wrong': error('{name} must be an IPv{version} address; it is {shown}.', 'Use an IPv{version} address.'),
  'not-uuid': error(
    '{name} must be a UUID; it is {shown}.',
    'Write 32 hexadecimal digits in groups of 8, 4, 4, 4 and 12, with hyphens between them.',
  ),
  'not-date-time': error(
    '{name} must be a date and time with a zone (RFC 3339); it is {shown}.',
    'Write it as 2026-11-23T18:30:00Z, or with +01:00 in the place of the Z.',
  ),
  'date-time-out-of-range': error(
    '{name} is {shown}, which is not a valid date or time.',
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
    '{name} is {shown}, which is not a whole number of bytes that can be represented exactly.',
    'Use another unit.',
  ),
  'not-path': error(
    '{name} must be a path, but contains a NUL character.',
    'Enter the path again; something else was copied with it.',
  ),
  'path-not-there': error(
    '{name} is {shown}, which does not exist.',
    'Create it, or fix the path; a relative path starts in {root}.',
  ),
  'not-base64': error(
    '{name} must be bytes in base64 (RFC 4648); it is {shown}.',
    'Use letters, digits, + and / (or - and _), without spaces. To encode a file: base64 -w0 FILE.',
  ),
  'bytes-wrong': error('{name} must have {needed} bytes; it has {length}.', 'Check that the whole value was copied.'),
  'pem-not-begun': error(
    '{name} must be PEM text (RFC 7468), but does not begin with a line -----BEGIN ...-----.',
    'Copy all of it, including the first and the last line, between quotes.',
  ),
  'pem-not-ended': error(
    '{name} has no line -----END {label}----- at its end.',
    'Copy all of it, including the last line, between quotes.',
  ),
  'pem-broken': error(
    '{name} is PEM text whose content is empty or not base64.',
    'Copy it again; an editor or a space may have broken its lines.',
  ),
  'pem-truncated': error(
    '{name} is PEM text whose content is incomplete: its length differs from the length it states.',
    'Copy all of it again, with every line between the first and the last.',
  ),
  'pem-label-wrong': error(
    '{name} must be PEM text with the label {needed}; it has {found}.',
    'Use the right file: a certificate is not a key, and a key in an older format may have to be converted.',
  ),
  'not-json': error(
    '{name} must be JSON; it is invalid from {at} on.',
    'Put single quotes around the whole value, and double quotes around names and texts within: \'{"places": 12}\'.',
  ),
  'json-number-inexact': error(
    '{name} is JSON with a number at {at} that has more digits than a number holds.',
    'Put double quotes around the number, and let the program read it as a text.',
  ),
  'json-member-twice': error(
    '{name} is JSON in which an object has two members of the same name, the second at {at}.',
    'Remove one of the two: only the last would be read.',
  ),
  'json-too-deep': error(
    '{name} is JSON nested more than {most} levels deep.',
    'Use a flatter structure, or keep the data in a file and put its path into the setting.',
  ),
  'item-empty': error('{name} is empty.', 'Remove the extra separator.'),
  'too-few-items': error(
    '{name} must have at least {limit} items; it has {length}.',
    'Add some, with the separator between them.',
  ),
  'too-many-items': error('{name} must have at most {limit} items; it has {length}.', 'Remove some.'),
  'item-twice': error('{name} has the same value as item {first} and as item {second}.', 'Remove one of them.'),
  'check-refused': error(
    '{name} does not pass a check of this project: {why}.',
    'Change the value so that the check passes.',
  ),
  'check-not-at-once': error(
    '{name} has a check that returned a promise; a check must be synchronous.',
    'Make the check synchronous; this is an error in the definition.',
  ),
  'check-gives-nothing': error(
    '{name} has a check that returned neither a value nor a reason.',
    'Return true or what is wrong (in a conversion: the value); this is an error in the definition.',
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
    '{name} has {length} characters, but its pattern is tested on at most {most}, since matching could take very long.',
    'Shorten it, or declare its maximum length: { maxLength: {length} }.',
  ),
  'pattern-differs': error(
    '{name} does not match the pattern {pattern}; it is {shown}.',
    'Use a value that matches {pattern}, the rule of the definition.',
  ),
})
