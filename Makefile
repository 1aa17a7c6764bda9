# Handwerk: `make demo` to look at it, `make test` to prove it.
.DEFAULT_GOAL := help
SHELL := /bin/bash
WEB := $(shell find web/src web/public web/index.html web/vite.config.ts web/fonts.ts web/packed.ts web/tsconfig.json -type f 2>/dev/null)
GO := $(shell find . -name '*.go' -not -path './web/node_modules/*' 2>/dev/null) $(shell find book postgres/migrations report/fonts -type f)

help: ## What there is to make
	@grep -E '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 14

demo: setup-demo bin/handwerk ## Install what is missing, build, and open the demo workshop
	@exec ./bin/handwerk demo

serve: setup-demo bin/handwerk ## Install what is missing, build, and open your own workshop (data in .handwerk)
	@exec ./bin/handwerk serve

setup-demo:
	@scripts/setup.sh postgresql

setup-test:
	@scripts/setup.sh postgresql chromium-headless-shell poppler-utils curl

web/node_modules/.stamp: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

web/dist/index.html: web/node_modules/.stamp $(WEB)
	cd web && npx --no-install vite build --logLevel warn
	@touch $@

build: bin/handwerk ## The program with its front end, in bin/

bin/handwerk: web/dist/index.html $(GO) go.mod go.sum
	go build -o $@ ./cmd/handwerk

dev: setup-demo bin/handwerk ## Demo server, and the front end rebuilt as you type (port 5173)
	@trap 'kill 0' EXIT; ./bin/handwerk demo & cd web && npx --no-install vite

generate: web/node_modules/.stamp ## OpenAPI document, TypeScript types, docs/calculators.md and docs/book.schema.json, from the Go code
	go run ./cmd/handwerk calc --page > docs/calculators.md
	go run ./httpapi/contract/comments book core picture report workshop httpapi > httpapi/contract/comments.gen.json.new
	mv httpapi/contract/comments.gen.json.new httpapi/contract/comments.gen.json
	go run ./cmd/handwerk openapi > web/src/model/openapi.gen.json
	cd web && npm run --silent types >/dev/null
	go run ./cmd/handwerk book schema > docs/book.schema.json

stale: generate
	@git diff --exit-code --stat -- docs/calculators.md docs/book.schema.json httpapi/contract/comments.gen.json web/src/model/openapi.gen.json web/src/model/schema.gen.d.ts || \
		{ echo "generated files are stale: run make generate and commit them"; exit 1; }

# Go is formatted to 120 columns.
NARROW := go tool golines -m 120 -t 4 --base-formatter=gofmt --no-reformat-tags

format: web/node_modules/.stamp ## Format all code
	$(NARROW) -w $$(git ls-files -co --exclude-standard '*.go')
	cd web && npx --no-install prettier --write --log-level warn src contract *.ts *.mjs *.json

lint: web/node_modules/.stamp web/dist/index.html ## Format, vet, staticcheck, tsc, front-end lint
	@wide=$$($(NARROW) -l $$(git ls-files '*.go')); test -z "$$wide" || { echo "run make format; it changes: $$wide"; exit 1; }
	@git ls-files '*.go' 'web/src/*.ts' 'web/src/*.tsx' | grep -v '[.]gen[.]' | xargs awk -f width.awk
	go vet ./...
	go tool staticcheck ./...
	@go tool gocognit -over 20 $$(git ls-files '*.go' ':!*_test.go') 2>/dev/null || { echo "harder to follow than 20: give its parts names"; exit 1; }
	GOOS=js GOARCH=wasm go build ./core/... ./book ./workshop/record ./workshop/kinds/... ./workshop/paper # rules and core are pure
	cd web && npm run --silent format >/dev/null || { npm run --silent format; exit 1; }
	cd web && npm run --silent check
	cd web && npm run --silent lint
	@(cd web && node texts.mjs $$(git ls-files src | grep -E '[.]tsx?$$' | grep -vE '[.](test|gen)[.]|/test/')) | go run ./lint/words
	cd web && npm run --silent contract >/dev/null 2>&1 || { npm run --silent contract; exit 1; }

test: setup-test lint stale bin/handwerk ## Everything CI runs
	cd web && npm run --silent test
	$(MAKE) --no-print-directory test-browser test-race test-plain

# One after the other: each keeps two cores busy, and beside each other they wait for deadlines of their own making.
test-browser:
	go test -count=1 -parallel 3 -timeout 45m ./e2e/...

test-plain:
	go test -count=1 -timeout 30m $$(go list ./... | grep -vE '/e2e|^handwerk/(postgres|httpapi)$$')

# The rooms where goroutines meet, with all they call, run under the race detector, and only there.
test-race:
	go test -count=1 -race -timeout 30m ./postgres ./httpapi

fuzz: ## A minute of fuzzing for every parser
	go test ./core/quantity -fuzz FuzzParse -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/metrology -fuzz FuzzReadGaugeLine -fuzztime 20s -fuzzminimizetime 1s
	go test ./httpapi/follow -fuzz FuzzLines -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/input -fuzz FuzzReadNumber -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/calc -fuzz FuzzQuestion -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/calc -fuzz FuzzCalculators -fuzztime 20s -fuzzminimizetime 1s
	go test ./book/files -fuzz FuzzLoad -fuzztime 20s -fuzzminimizetime 1s
	go test ./report -fuzz FuzzReadArchive -fuzztime 20s -fuzzminimizetime 1s
	go test ./report -fuzz FuzzReadSheet -fuzztime 20s -fuzzminimizetime 1s
	go test ./report -fuzz FuzzReadParts -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/supply -fuzz FuzzHolds -fuzztime 20s -fuzzminimizetime 1s
	go test ./core/supply -fuzz FuzzSame -fuzztime 20s -fuzzminimizetime 1s

bench: setup-test bin/handwerk ## Figures for docs/benchmarks.md (fills a database with 10,000 rebuilds)
	go test -run '^$$' -bench . -benchmem ./core/... ./book/... ./workshop
	HANDWERK_BENCH_REBUILDS=10000 go test -run '^$$' -bench . -benchtime 3s -timeout 30m ./httpapi
	go test -run '^$$' -bench . -benchtime 100x -timeout 20m ./e2e

attack: setup-demo bin/handwerk ## What a hostile week would do, in five minutes (docs/benchmarks.md)
	go run ./e2e/attack

screenshots: setup-test bin/handwerk ## Renew docs/screenshots from the demo
	go run ./e2e/shots docs/screenshots

.PHONY: format test-browser test-plain test-race help demo serve setup-demo setup-test build dev generate stale lint test fuzz bench attack screenshots
