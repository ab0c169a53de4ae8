#!/usr/bin/env bash
# Fails when the committed API document or client is not what the code makes now.
set -euo pipefail
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
go run ./cmd/umberfrost openapi >"$work/openapi.json"
cmp -s "$work/openapi.json" docs/openapi.json || { echo "docs/openapi.json is stale: run make generate"; exit 1; }
(cd ui && npx --no-install openapi-typescript ../docs/openapi.json -o "$work/schema.d.ts" >/dev/null 2>&1)
cmp -s "$work/schema.d.ts" ui/src/api/schema.d.ts || { echo "ui/src/api/schema.d.ts is stale: run make generate"; exit 1; }
