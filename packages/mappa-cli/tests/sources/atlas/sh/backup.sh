#!/usr/bin/env bash
set -euo pipefail
DB_HOST=db.fernhollow.example # planted: 1
export PGPASSWORD='glass negatives 1931' # planted: 1
TOKEN="up-0f1e2d3c4b5a" # planted: 1
PGPASSWORD='vernier-77' psql -h replica.fernhollow.example -U plates -c 'select 1' # planted: 2
curl -fsS -H "Authorization: Bearer upl_88xZq2Lm01" https://backup.fernhollow.example/hooks/nightly # planted: 2
curl -u 'desk:parallax-9' "https://files.fernhollow.example/plates" # planted: 2
mysqldump -uplates -p'sidereal-12' plates > /tmp/plates.sql # planted: 1
echo "Enter your password"
RETRIES=3
