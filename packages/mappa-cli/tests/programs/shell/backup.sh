#!/usr/bin/env bash
# Copies the plates of a night.
set -eu

DB_HOST=db.fernhollow.example
export PGPASSWORD='glass negatives 1931'
TOKEN="up-0f1e2d3c4b5a"
: "${ARCHIVE_KEY:=ak-9c8b7a6d5e4f}"
port=${BACKUP_PORT:-5433}

show() {
	printf '%s|' "$@"
}

show "$DB_HOST" "$PGPASSWORD" "$TOKEN" "$ARCHIVE_KEY" "$port"
PGPASSWORD='vernier-77' sh -c 'printf "%s|" "$PGPASSWORD"'
show curl -fsS -H "Authorization: Bearer upl_88xZq2Lm01" https://backup.fernhollow.example/hooks/nightly
show curl -u 'desk:parallax-9' "https://files.fernhollow.example/plates?night=$1"
show mysqldump -uplates -p'sidereal-12' plates
cat <<END
url=https://backup.fernhollow.example/hooks/nightly
token=up-0f1e2d3c4b5a
END
VAULT_PASSWORD="pa\$\$w0rd \"x\" 9"
OTHER_PASSWORD="abc-$TOKEN-9x"
show "$VAULT_PASSWORD" "$OTHER_PASSWORD" "$(printf '%s' 'up-0f1e2d3c4b5a' "up-0f1e2d3c4b5a x" | tr a-z A-Z)"
show '{"token":"up-0f1e2d3c4b5a"}' $'x\tup-0f1e2d3c4b5a'
case "$TOKEN" in
	up-0f1e2d3c4b5a) show known ;;
esac
# Not expanded here, so it has to stay.
cat <<'END'
Enter your password, $USER
END
