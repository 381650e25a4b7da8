# Nephelon. `make demo` and `make test` are all one needs; they install what is missing.

SHELL := /bin/bash
MAKEFLAGS += --jobs=2
WEB := $(shell find web/src web/public -type f -not -name '*.gen.*') web/index.html web/vite.config.ts
GO := $(shell find . -name '*.go' -not -path './web/node_modules/*') go.mod go.sum \
      $(shell find store/migrations demo -name '*.sql' -o -name '*.json')

.PHONY: demo demo-reset dev test build schema screenshots mutants cover check clean

demo: bin/nephelon
	@scripts/need postgresql
	@bin/nephelon demo

demo-reset: bin/nephelon
	@scripts/need postgresql
	@bin/nephelon demo -reset

dev: build
	@scripts/need postgresql entr
	@scripts/dev

test: build
	@scripts/need postgresql pgbouncer chromium-headless-shell glpk-utils minizinc poppler-utils
	@scripts/check

build: bin/nephelon

# The interface is built from types that the Go program writes, and the Go
# program carries the built interface: hence first Go, then the interface,
# then Go again.
web/node_modules/.ready: web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

web/src/api/openapi.gen.json: $(GO)
	go run ./cmd/nephelon generate -api web/src/api
	@touch $@

web/src/api/schema.gen.d.ts: web/src/api/openapi.gen.json web/node_modules/.ready
	cd web && npm run --silent types
	@touch $@

# The record of a day runs on the device, too: the same Go, for the browser.
web/src/record/floor.gen.wasm: $(GO)
	GOOS=js GOARCH=wasm go build -ldflags "-s -w" -o $@ ./cmd/floor
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" web/src/record/runtime.gen.js

web/dist/index.html: $(WEB) web/src/api/schema.gen.d.ts web/src/record/floor.gen.wasm
	cd web && npm run --silent build
	@touch $@

bin/nephelon: $(GO) web/dist/index.html
	go build -o $@ ./cmd/nephelon

schema:
	go run ./cmd/nephelon generate -schemas docs

screenshots: build
	@scripts/need postgresql chromium-headless-shell
	NEPHELON_SCREENSHOTS=$(CURDIR)/docs/screenshots go test -tags screenshots ./e2e -run TestScreenshots -count 1

# What share of each package its own tests reach, against its floor.
cover: build
	@scripts/need postgresql pgbouncer
	@scripts/cover

# What a mutation tool can change in the rules without a test noticing, a package
# at a time: make mutants PACKAGES="core/survey core/kit"
PACKAGES ?= core/survey core/kit core/cure core/buildup core/pour core/takeoff core/material core/climate
mutants:
	@scripts/mutants $(PACKAGES)

clean:
	rm -rf bin web/dist/assets web/dist/index.html web/node_modules
