#!/bin/sh
# Passes every test, in two lines of work beside each other, so that neither core waits: tracing,
# proving and the server watched for data races, told as they go; and what needs no run, the browser's
# journeys, all else, and the core watched for data races.
# The collector is given room: tests are short lives with much litter. Vet runs once, with the rules.
set -e
export GOGC=1000 GOMEMLIMIT=3GiB
told=$(mktemp)
trap 'rm -f "$told"' EXIT
others=$(go list ./... | grep -v -e /core/netlist$ -e /core/trace$ -e /core/prove$ -e /e2e$)
(
	failed=0
	echo "== format, types, rules"
	make -s lint || failed=1
	go test -vet=off -timeout 40m -parallel 3 ./e2e || failed=1 # most of a journey is waiting
	echo "== all else"
	go test -vet=off -timeout 40m $others || failed=1
	echo "== watched for data races: core"
	go test -vet=off -timeout 40m -race -short $RACED || failed=1
	exit $failed
) >"$told" 2>&1 &
beside=$!
failed=0
echo "== the electrical model against the simulator; tracing; proving"
go test -vet=off -timeout 40m -v ./core/netlist ./core/trace ./core/prove || failed=1
echo "== watched for data races: server and store"
go test -vet=off -timeout 40m -race -short $RACED_SERVED || failed=1
echo "== journeys in the browser"
wait $beside || failed=1
cat "$told"
exit $failed
