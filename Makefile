# Umberfrost: `make start` starts a shop of your own, `make demo` one with demo data, `make test` passes its tests.

SHELL := /bin/bash
.DELETE_ON_ERROR:

GO_FILES := $(shell find cmd internal e2e scripts ui -name node_modules -prune -o \( -name '*.go' -o -name '*.sql' -o -name '*.csv' -o -name '*.yaml' \) -print)
UI_FILES := $(shell find ui/src ui/public -type f) ui/index.html ui/vite.config.ts ui/tsconfig.json
NPM_READY := ui/node_modules/.package-lock.json

.PHONY: start demo demo-reset test test-long lint format generate bench endure screenshots build

# A shop of one's own, kept in a data folder outside this one.
start: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql
	@exec bin/umberfrost start

demo: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql
	@exec bin/umberfrost demo

demo-reset:
	@if [ -f .data/demo/data-is-in ]; then rm -rf "$$(cat .data/demo/data-is-in)"; fi
	rm -rf .data/demo
	@echo "The next make demo starts over."

build: bin/umberfrost

# What umberfrost version says it was built from.
COMMIT = $(or $(shell git rev-parse HEAD 2>/dev/null),unknown)$(shell git diff --quiet HEAD 2>/dev/null || echo ", changed since")

bin/umberfrost: $(GO_FILES) ui/dist/notices.json go.mod go.sum
	go build -ldflags '-X "main.commit=$(COMMIT)"' -o $@ ./cmd/umberfrost

ui/dist/index.html: $(UI_FILES) $(NPM_READY)
	cd ui && npm run --silent build

# The licences of all that is shipped.
ui/dist/notices.json: ui/dist/index.html scripts/notices/main.go go.mod go.sum ui/package-lock.json
	go run ./scripts/notices ./cmd/umberfrost ui $@

$(NPM_READY): ui/package.json ui/package-lock.json
	cd ui && npm ci --no-fund --no-audit --loglevel=error
	@touch $@

# Everything CI runs. Properties draw from a fixed seed, so it comes out the same every time. Each package is tested
# once, those that keep state in goroutines under the race detector. Lint, which vets, runs beside it.
RACED := ./internal/shop ./internal/store ./internal/web
TIMES := .data/test
test: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql chromium-headless-shell chromium-headless-shell
	@mkdir -p $(TIMES)
	@export GOGC=300 TMPDIR=$$(scripts/scratch.sh) && trap 'rm -rf "$$TMPDIR"' EXIT && $(MAKE) --no-print-directory -j2 test-plain lint-and-race
	@echo "The ten longest:" && cat $(TIMES)/*.json | go tool gotestsum tool slowest --threshold 1s --num 10

.PHONY: test-plain test-race lint-and-race
GOTESTSUM := go tool gotestsum --format pkgname --format-hide-empty-pkg --hide-summary=skipped
test-plain:
	$(GOTESTSUM) --jsonfile $(TIMES)/plain.json -- -vet=off -timeout 45m -parallel 6 $$(go list ./... | grep -vxF "$$(go list $(RACED))")
test-race:
	$(GOTESTSUM) --jsonfile $(TIMES)/race.json -- -vet=off -timeout 45m -parallel 4 -race $(RACED)
lint-and-race:
	@$(MAKE) --no-print-directory lint
	@$(MAKE) --no-print-directory test-race

# The same properties with a fresh seed and many more draws. What it finds becomes a
# named example.
LONG_CHECKS ?= 2000
test-long: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql
	RAPID_SEED=$$(od -An -N4 -tu4 /dev/urandom | tr -d ' ') RAPID_CHECKS=$(LONG_CHECKS) bash -c 'echo "seed $$RAPID_SEED"; go test -count=1 -timeout 120m ./internal/craft/... && RAPID_CHECKS=10000 go test -count=1 -timeout 60m ./internal/craft/edit'

lint: $(NPM_READY) ui/dist/notices.json
	@test -z "$$(gofmt -l cmd internal e2e scripts ui/embed.go)" || { echo "not gofmt'd:"; gofmt -l cmd internal e2e scripts ui/embed.go; exit 1; }
	go vet ./...
	go tool staticcheck ./...
	cd ui && npm run --silent check && npm run --silent test
	@scripts/stale.sh

format:
	gofmt -w cmd internal e2e scripts ui/embed.go
	cd ui && npm run --silent format

# The API's document from the server's types, and the client's types from it.
generate: ui/dist/index.html
	go run ./cmd/umberfrost openapi > docs/openapi.json
	cd ui && npm run --silent generate

bench: build
	go test -run '^$$' -bench . -benchmem ./internal/craft/schedule/... ./internal/craft/recipe ./internal/web
	go test -run '^$$' -bench . -benchtime 3x ./e2e

# Nothing acknowledged is lost or doubled: kill -9 under bursts, the database stopped, two servers. A quarter of an hour.
endure: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql
	go run ./e2e/endure

screenshots: build
	@scripts/need.sh '/usr/lib/postgresql/*/bin/initdb' postgresql chromium-headless-shell chromium-headless-shell
	go run ./e2e/screenshots
