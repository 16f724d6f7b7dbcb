# make help lists what there is. Each target installs what it is missing; a second run starts in seconds.

PORT ?= 8420
PAGE := web/dist/page/index.html
PAGE_SOURCES := $(shell find web/src web/public -type f) web/index.html web/package.json web/package-lock.json web/vite.config.ts web/tsconfig.json
NODE_MODULES := web/node_modules/.package-lock.json

.PHONY: help demo dev test lint cover race fuzz reliability houses page generate check-generated chromium ngspice poppler mqtt bench screenshots clean

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

test: page chromium ngspice poppler mqtt ## builds all and passes every test, in the browser and for data races too
	@RACED="$(RACED)" RACED_SERVED="$(RACED_SERVED)" sh scripts/test.sh

# Watched for data races: the rooms that do several things at once or whose values are shared, and all
# that calls them. The others run on one goroutine.
RACED := ./core/electric ./core/inspect ./core/parallel ./core/procedure ./core/prove ./core/retrofit
RACED_SERVED := ./api/... ./store/...

race: page ## the tests but the long ones, watched for data races
	GOGC=400 go test -timeout 40m -race -short $(RACED) $(RACED_SERVED)

# Every fuzz target for two minutes each: FUZZTIME=10m make fuzz.
fuzz: page ## every fuzz target for two minutes
	FUZZTIME=$(or $(FUZZTIME),2m) sh scripts/fuzz.sh

# Attacks a server of its own and its data on loopback, within bounds; the tables of docs/reliability.md.
reliability: page ## kills, limits, full disks: docs/reliability.md
	go run ./scripts/reliability

# Traces 10,000 random hidden houses by the tests proposed; "make test" traces 2,000.
houses: ## traces 10,000 random hidden houses
	AMBIVIA_HOUSES=1000 go test -timeout 120m -v -run TestNeverWrong ./core/trace

# The browser of the tests: Debian's Chromium, as its shell without a head, installed if there is none.
chromium:
	@command -v chromium-headless-shell >/dev/null || \
		{ apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell >/dev/null; } || command -v chromium >/dev/null

# The independent judge of the electrical model: Debian's circuit simulator.
ngspice:
	@command -v ngspice >/dev/null || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq ngspice >/dev/null; }

# Reads the text of sheets as a person's program would.
poppler:
	@command -v pdftotext >/dev/null || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq poppler-utils >/dev/null; }

# Plays with the stand-in hub as anybody's client would.
mqtt:
	@command -v mosquitto_sub >/dev/null || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq mosquitto-clients >/dev/null; }

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
screenshots: page chromium ## pictures of the main views, for docs/screenshots
	AMBIVIA_SCREENSHOTS=$(CURDIR)/docs/screenshots go test ./e2e -count=1 -run TestScreenshots

clean: ## what was built goes
	rm -rf bin web/dist/page
