# Wunderkammer: build, demo, test, bench, screenshots.
# Go, Node with npm, make and gcc have to be there; everything else is installed from here.

BIN      := bin/wunderkammer
WASM     := web/src/generated/core.wasm
# What isn't worked out again for every frame is kept small in the browser's core: without inlining it is 6 % smaller when packed.
COLD     := golang.org/x/... image/... net/... fmt regexp/... github.com/tdewolff/... encoding/xml compress/... \
            $(addprefix wunderkammer/core/,gesture/... check format/... view rehearse graph)
SMALL    := $(foreach package,$(COLD),-gcflags=$(package)=-l)
CORE_SRC := $(shell find core wasm -name '*.go' -not -name '*_test.go') $(wildcard core/outline/fonts/*) go.mod go.sum
GO_SRC   := $(shell find cmd core demo draw farm press server store web -name '*.go' -not -path '*/node_modules/*') go.mod go.sum
WEB_SRC  := $(shell find web/src web/public -type f -not -path '*/generated/*') $(wildcard web/*.ts web/*.json web/*.html)
DATA     ?= data
LISTEN   ?= 127.0.0.1:8080

.PHONY: build contract demo test test-go test-front test-browser quick quick-go quick-browser bench bench-growth fuzz screenshots chromium clean

build: $(BIN)

demo: build
	@echo "== starting the demo (stop it with Ctrl C)"
	@$(BIN) demo --data $(DATA) --listen $(LISTEN)

$(BIN): $(GO_SRC) web/dist/index.html
	@echo "== building the binary (the first time compiles SQLite: about two minutes)"
	go build -trimpath -o $@ ./cmd/wunderkammer

$(WASM): $(CORE_SRC)
	@echo "== building the core for the browser"
	@mkdir -p $(@D)
	cp "$$(go env GOROOT)/lib/wasm/wasm_exec.js" $(@D)/
	GOEXPERIMENT=jsonv2 GOOS=js GOARCH=wasm go build -trimpath -ldflags='-s -w' $(SMALL) -o $@ ./wasm

# What the page and the core say to each other, as types of TypeScript, the schema of project files, and the description of the
# API. A Go test fails where one of them is out of date.
contract:
	go run ./cmd/contract web/src/core/contract.ts docs/project.schema.json server/openapi.json

web/node_modules/.installed: web/package-lock.json
	@echo "== installing the packages of the front end"
	cd web && npm ci --no-audit --no-fund
	@touch $@

e2e/node_modules/.installed: e2e/package-lock.json
	@echo "== installing the packages of the browser tests"
	cd e2e && npm ci --no-audit --no-fund
	@touch $@

web/dist/index.html: $(WASM) $(WEB_SRC) web/node_modules/.installed
	@echo "== building the front end"
	cd web && npm run --silent build
	@touch $@

chromium:
	@command -v chromium >/dev/null && command -v ffprobe >/dev/null || { echo "== installing chromium, and ffmpeg, which reads what is exported"; apt-get update -qq && apt-get install -y -qq chromium ffmpeg >/dev/null; }

test: test-go test-front test-browser
	@echo "everything passed: $$(cat build/go-count) Go tests, types, $$(cat build/browser-count) browser tests"

test-go: web/dist/index.html
	@echo "== gofmt, vet and the Go tests"
	@files="$$(gofmt -l $$(git ls-files '*.go'))"; [ -z "$$files" ] || { echo "not formatted: $$files"; exit 1; }
	go vet ./...
	GOOS=js GOARCH=wasm go vet ./wasm
	@echo "== what reads JSON, with the encoding/json that the browser has: a newer one, twice as fast there"
	@mkdir -p build
	@GOEXPERIMENT=jsonv2 go test ./core/bridge ./core/change ./core/gesture ./core/scene ./core/session ./core/view >build/json.log 2>&1 || { cat build/json.log; exit 1; }
	@echo "== no product of the core is fused with a sum, on any processor"
	@fused="$$(GOARCH=arm64 CGO_ENABLED=0 go build -gcflags='wunderkammer/core/...=-S' ./core/... 2>&1 | grep -E 'FN?M(ADD|SUB)[DS]' | grep -oE '[a-z/]+\.go:[0-9]+' | sort -u)"; [ -z "$$fused" ] || { echo "write these products as float64(a * b): $$fused"; exit 1; }
	@go test -v ./... >build/go.log 2>&1 || { grep -vE '^(=== |ok|PASS|\?|\s*--- (PASS|SKIP))' build/go.log; exit 1; }
	@grep -c -- '--- PASS' build/go.log >build/go-count

test-front: web/node_modules/.installed e2e/node_modules/.installed $(WASM)
	@echo "== types, form and rules of the front end, and types of its tests"
	cd web && npm run --silent check && npm run --silent lint
	cd e2e && npm run --silent check

test-browser: build e2e/node_modules/.installed chromium
	@echo "== the interface, in headless Chromium"
	@mkdir -p build
	cd e2e && npm run --silent test
	@node -p 'const s = require("./build/browser.json").stats; s.expected + (s.flaky ? " (and " + s.flaky + " that passed only when run again)" : "")' >build/browser-count

# What a minute can tell: short Go tests, types and form, ten browser tests, side by side.
quick: build e2e/node_modules/.installed chromium
	@$(MAKE) --no-print-directory -j3 quick-go test-front quick-browser
	@echo "quick: passed; make test tells the rest"

quick-go:
	@mkdir -p build
	@go vet ./... && { go test -short ./... >build/quick.log 2>&1 || { grep -vE '^ok|no test files' build/quick.log; exit 1; }; }

quick-browser:
	@cd e2e && npx playwright test --grep @quick --reporter line --retries 0

# Every fuzz target for FUZZTIME; its seeds run with the tests.
FUZZTIME ?= 10m
fuzz:
	@for package in $$(go list ./...); do \
	  for target in $$(go test -list '^Fuzz' $$package | grep '^Fuzz'); do \
	    echo "== $$target of $$package, for $(FUZZTIME)"; \
	    go test -run '^$$' -fuzz "^$$target$$" -fuzztime $(FUZZTIME) -fuzzminimizetime 5s $$package || exit 1; \
	  done; \
	done

bench: build e2e/node_modules/.installed chromium
	@echo "== evaluation, native"
	go test ./core/engine ./core/format/csv -run '^$$' -bench . -benchmem
	@echo "== in the browser"
	cd e2e && npx playwright test --config bench.config.ts

# How gestures on many items grow, from 1,000 to 100,000 of them.
bench-growth:
	GOEXPERIMENT=jsonv2 go test ./core/bridge -run '^$$' -bench Growth -benchtime 1x -timeout 30m # as the browser reads and writes JSON

screenshots: build e2e/node_modules/.installed chromium
	@echo "== taking the pictures of docs/screenshots"
	cd e2e && npx playwright test --config screenshots.config.ts

clean:
	rm -rf bin build web/dist web/src/generated web/node_modules e2e/node_modules
