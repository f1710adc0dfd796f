#!/bin/sh
digest=$(sh "$(dirname "$0")/backup.sh" 2031-04-05 | sha256sum | cut -c1-16)
[ "$digest" = 8c9d818a3a49c21c ] || { echo "the output is another one: $digest" >&2; exit 1; }
echo OK
