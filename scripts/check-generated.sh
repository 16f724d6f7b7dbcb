#!/bin/sh
# Fails when generated code is not what its sources generate now.
set -e
files="api/types.gen.go web/src/api/schema.gen.ts web/src/api/circuit.gen.ts web/src/api/terms.gen.ts"
before=$(mktemp -d)
trap 'rm -rf "$before"' EXIT
for f in $files; do cp -p "$f" "$before/$(basename "$f")"; done
make --no-print-directory generate
for f in $files; do
  cmp -s "$f" "$before/$(basename "$f")" || { echo "$f was not current; it has been generated anew: commit it"; exit 1; }
  cp -p "$before/$(basename "$f")" "$f" # as old as it was, so that nothing is built anew for it
done
