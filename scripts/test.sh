#!/bin/sh
# Passes every test: the browser's journeys beside the others, since both wait for each other's cores
# the least so. What tracing and proving take is printed as they go. The collector is given room: tests
# are short lives with much litter.
set -e
export GOGC=400
told=$(mktemp)
trap 'rm -f "$told"' EXIT
echo "== journeys in the browser, in the background"
go test -timeout 40m ./e2e >"$told" 2>&1 &
browser=$!
echo "== the electrical model against the simulator; tracing; proving"
go test -timeout 40m -v ./core/netlist ./core/trace ./core/prove
echo "== all else"
go test -timeout 40m $(go list ./... | grep -v -e /core/netlist$ -e /core/trace$ -e /core/prove$ -e /e2e$)
echo "== journeys in the browser"
wait $browser && failed=0 || failed=1
cat "$told"
exit $failed
