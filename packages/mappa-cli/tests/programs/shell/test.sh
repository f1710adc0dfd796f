#!/bin/sh
digest=$(bash "$(dirname "$0")/backup.sh" 2031-04-05 | sha256sum | cut -c1-16)
[ "$digest" = d5f007d091797b2b ] || { echo "the output is another one: $digest" >&2; exit 1; }
echo OK
