#!/bin/sh
# Runs every fuzz target for a while: FUZZTIME=2m sh scripts/fuzz.sh. What is found is kept by the
# tool under testdata/fuzz of its package: commit it, and mend what it shows.
set -e
for package in $(go list ./...); do
  for target in $(go test -list '^Fuzz' "$package" | grep '^Fuzz' || true); do
    echo "== $package $target"
    go test -run '^$' -fuzz "^$target\$" -fuzztime "${FUZZTIME:-2m}" "$package"
  done
done
