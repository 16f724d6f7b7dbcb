# make help lists what there is. Each target installs what it is missing; a second run starts in seconds.

PORT ?= 8420
PAGE := web/dist/page/index.html
PAGE_SOURCES := $(shell find web/src web/public -type f) web/index.html web/package.json web/package-lock.json web/vite.config.ts web/tsconfig.json
NODE_MODULES := web/node_modules/.package-lock.json

.PHONY: help demo dev test lint cover race fuzz reliability effort houses page generate check-generated tools bench screenshots clean

help: ## this list
	@awk 'BEGIN { FS = ":.*## " } /^[a-z-]+:.*## / { printf "  make %-12s %s\n", $$1, $$2 }' $(firstword $(MAKEFILE_LIST))

demo: page ## builds all and starts the program with demo data
	go build -o bin/ambivia ./cmd/ambivia
	./bin/ambivia serve --demo --data data/demo.db --address 127.0.0.1:$(PORT)

page: $(PAGE)

$(PAGE): $(PAGE_SOURCES) | $(NODE_MODULES)
	cd web && npm run --silent build

$(NODE_MODULES): web/package.json web/package-lock.json
	cd web && npm ci --silent --no-audit --no-fund
	@touch $@

# The page with reload, beside the program: two processes, ended together.
dev: $(NODE_MODULES) ## the page with reload beside the server
	go build -o bin/ambivia ./cmd/ambivia
	@trap 'kill 0' EXIT; ./bin/ambivia serve --demo --data data/demo.db & cd web && npx vite

lint: $(NODE_MODULES) check-generated ## format, vet, staticcheck, the page's types and rules
	cd web && npm run --silent check
	@unformatted=$$(gofmt -l $$(git ls-files '*.go' | grep -v '\.gen\.go$$')); test -z "$$unformatted" || { echo "gofmt: $$unformatted"; exit 1; }
	go vet ./...
	go tool -modfile=tools/go.mod staticcheck ./...

cover: page ## how much of each package the tests go through
	go test -short -cover ./core/... ./api/... ./store/... ./exchange/... | awk '{ print $$2, $$5 }'

# Every test, in parts that make hands out to two cores: whole jobs, the longest, need nothing and begin while the page is built
# and tools are installed. They keep to one core, so that browsers are not kept waiting. What a part prints stands together, and
# all are gone through where one fails.
test: ## builds all and passes every test, in the browser and for data races too
	@$(MAKE) --no-print-directory -k -j2 -Otarget test-chains test-rules test-journeys test-trace test-rest test-model test-raced test-served

# Tests are short lives with much litter, so the collector is given room. Vet runs once, with the rules.
test-%: export GOGC := 1000
test-%: export GOMEMLIMIT := 3GiB
GO_TEST := go test -vet=off -timeout 40m

.PHONY: test-chains test-trace test-model test-rules test-journeys test-rest test-raced test-served
test-chains: # 500 random houses from the first look to the record; -v tells the figures of each kind
	@echo "== whole jobs"
	@GOMAXPROCS=1 $(GO_TEST) -v ./core/house

test-trace: # 168 random houses and more; -v tells the figures of each kind
	@echo "== tracing"
	@GOMAXPROCS=1 $(GO_TEST) -v ./core/trace

test-model: tools
	@echo "== the electrical model against the simulator; proving"
	@GOMAXPROCS=1 $(GO_TEST) -p 1 ./core/netlist ./core/prove

test-rules: page
	@echo "== format, types, rules"
	@$(MAKE) --no-print-directory lint

test-journeys: page tools # most of a journey is waiting
	@echo "== journeys in the browser"
	@$(GO_TEST) -parallel 3 ./e2e

test-rest: page tools
	@echo "== all else"
	@GOMAXPROCS=1 $(GO_TEST) -p 1 $$(go list ./... | grep -v -e /core/netlist$$ -e /core/trace$$ -e /core/house$$ -e /core/prove$$ -e /e2e$$)

test-raced:
	@echo "== watched for data races: core"
	@$(GO_TEST) -race -short $(RACED)

test-served: page tools
	@echo "== watched for data races: server and store"
	@$(GO_TEST) -race -short $(RACED_SERVED)

tools: ## what the tests use of Debian, where it is missing
	@sh scripts/tools.sh

# Watched for data races: the rooms that do several things at once or whose values are shared. The others run on one goroutine.
RACED := ./core/electric ./core/inspect ./core/parallel ./core/prove ./core/retrofit
RACED_SERVED := ./api/... ./store/...

race: page ## the tests but the long ones, watched for data races
	GOGC=400 go test -timeout 40m -race -short $(RACED) $(RACED_SERVED)

# Every fuzz target for two minutes each: FUZZTIME=10m make fuzz.
fuzz: page ## every fuzz target for two minutes
	FUZZTIME=$(or $(FUZZTIME),2m) sh scripts/fuzz.sh

# Attacks a server of its own and its data on loopback, within bounds; the tables of docs/reliability.md.
reliability: page ## kills, limits, full disks: docs/reliability.md
	go run ./scripts/reliability

# Traces 10,000 random hidden houses by the tests proposed; "make test" traces 168, and carries plans out in 500.
houses: ## traces 10,000 random hidden houses, and carries plans out in hundreds
	AMBIVIA_HOUSES=770 go test -timeout 120m -v -run TestNeverWrong ./core/trace
	AMBIVIA_CHAINS=40 go test -timeout 120m -v -run TestChain ./core/house

# What tracing costs in hidden houses of two switches; fails where a median is past what is held today.
effort: ## readings, rounds and breaker operations in 200 houses
	go run ./scripts/effort

# Generated code: the contract's Go types, the page's types of contract and file.
generate: $(NODE_MODULES) ## code from the contract and the schema
	go tool -modfile=tools/go.mod oapi-codegen -config api/generate.yaml -o api/types.gen.go api/openapi.yaml
	go run ./scripts/terms web/src/api/terms.gen.ts
	cd web && npm run --silent generate >/dev/null

check-generated: $(NODE_MODULES)
	@sh scripts/check-generated.sh

bench: ## speed, for docs/performance.md
	go test -run '^$$' -bench . -benchmem ./core/...

# Pictures of the main views from demo data, for docs/screenshots.
screenshots: page tools ## pictures of the main views, for docs/screenshots
	AMBIVIA_SCREENSHOTS=$(CURDIR)/docs/screenshots go test ./e2e -count=1 -run TestScreenshots

clean: ## what was built goes
	rm -rf bin web/dist/page
