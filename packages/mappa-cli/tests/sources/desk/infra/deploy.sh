#!/usr/bin/env bash
set -euo pipefail
DEPLOY_TOKEN="dpl_0x9fK2mQ8rT4" # planted: 1
curl -fsS "https://deploy.fernhollow.example/hook" -H "X-Token: $DEPLOY_TOKEN"
echo "done in $SECONDS s"
