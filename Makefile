# Everything a checkout needs. `make demo` and `make test` do all set-up.
GO ?= go
# What is built does not hang on where: a fresh clone finds it in the cache.
# Without a codec that nothing here speaks, the binary is a tenth smaller.
export GOFLAGS ?= -trimpath -tags=nomsgpack
VERSION ?= $(shell git describe --tags --always --dirty 2>/dev/null || echo unknown)
ADDR ?= 127.0.0.1:7373

.PHONY: demo serve test web lint types check-types format bench soak measure shots fuzz build clean dist

## demo: build and start with the sample piece
demo: build
	./bin/agrimony demo --addr $(ADDR)

## serve: build and start with your own pieces
serve: build
	./bin/agrimony serve --addr $(ADDR)

build: web
	$(GO) build -ldflags "-X main.version=$(VERSION)" -o bin/agrimony ./cmd/agrimony

PLATFORMS := linux/amd64 linux/arm64 darwin/amd64 darwin/arm64 windows/amd64 windows/arm64
# What a binary may weigh at most, in bytes.
HEAVIEST := 30000000

## dist: one static binary for each platform, in dist/, with checksums
dist: web
	rm -rf dist && mkdir -p dist
	@for p in $(PLATFORMS); do \
		os=$${p%/*}; arch=$${p#*/}; name=agrimony-$(VERSION)-$$os-$$arch; [ $$os = windows ] && name=$$name.exe; \
		CGO_ENABLED=0 GOOS=$$os GOARCH=$$arch $(GO) build -ldflags "-s -w -X main.version=$(VERSION)" -o dist/$$name ./cmd/agrimony || exit 1; \
		size=$$(wc -c < dist/$$name); echo "$$name $$size bytes"; \
		[ $$size -lt $(HEAVIEST) ] || { echo "$$name is over $(HEAVIEST) bytes"; exit 1; }; \
	done
	cd dist && sha256sum agrimony-* > SHA256SUMS

## web: build the screens
web: web/dist/index.html

WEB_SOURCES := $(shell find web/src web/public -type f) web/index.html web/vite.config.ts web/tsconfig.json

web/dist/index.html: web/node_modules/.package-lock.json $(WEB_SOURCES)
	cd web && npx vite build --logLevel warn
	@touch $@

web/node_modules/.package-lock.json: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

## types: write the TypeScript types of the Go ones, and the document's schema
types:
	$(GO) tool tygo generate
	$(GO) run ./cmd/agrimony schema > docs/piece.schema.json
	$(GO) run ./cmd/agrimony schema --edits > docs/edits.schema.json
	$(GO) run ./cmd/agrimony schema --typescript > web/src/api/gen/schema.gen.ts

## check-types: fail when what types writes is not what is checked in
check-types: types
	@git diff --exit-code --stat -- web/src/api/gen docs/piece.schema.json docs/edits.schema.json || (echo "Generated files are stale: run make types and commit" && exit 1)

## format: write the one format of each language
format: web/node_modules/.package-lock.json
	gofmt -w cmd internal e2e web/*.go
	cd web && npx prettier --write --log-level warn .

## lint: formatting, types and the linters of both sides
lint: web/node_modules/.package-lock.json
	@test -z "$$(gofmt -l cmd internal e2e web/*.go)" || (gofmt -l cmd internal e2e web/*.go && exit 1)
	$(GO) vet ./...
	$(GO) tool staticcheck ./...
	cd web && npx prettier --check --log-level warn . && npx tsc --noEmit && npx oxlint --deny-warnings src test

## test: install what the tests need, then lint and every test
test: tools web
	@$(MAKE) --no-print-directory -j 2 --output-sync=target test-house test-core
	@$(MAKE) --no-print-directory test-browser

.PHONY: test-house test-core test-screens test-browser
# What works at once is raced: the packages with goroutines of their own. The searches that draw most are not:
# what they go through, other tests race. Nor are what is only large.
RACED := ./internal/core/chord ./internal/core/lane/phrase ./internal/core/order ./internal/core/render ./internal/core/smf ./internal/core/starter ./internal/server ./internal/store
SEARCHES := ^(TestTheWholeVocabularyIsMadeUp|TestHistoryWalksToTheEndAndBack|TestAfterEveryEditThePieceOpens|TestAnEntryIsTheClipAlone|TestAnEntryGlidesAsTheClipAlone|TestTiesLeadToTheChord|TestSplittingChangesNothing|TestAStretchIsAPartOfTheWhole|TestTheWhyOfANoteAccountsForIt|TestHalfAnHourBarByBar|TestAnOrderIsPlayedOnTheChannelsOfItsFile|TestCopiesOfFullLanesAreRefusedBeforeTheyAreWritten|TestManyGlidesOfOneNote|TestASmallDocumentMayNotSinkTheServer|TestARevisionThatDoesNotFitIsRecovered|TestTooManyEventsAreRefusedBeforeTheyAreMade|TestWhereAnEntryIsLeftMovesNoOnset|TestAFileIsWhatALibraryWrites|TestLargeFilesAreReadInLittleMemory|TestEveryRouteIsBounded)$$
test-core:
	$(GO) test $$($(GO) list ./... | grep -v /e2e)
	$(GO) test -race -skip '$(SEARCHES)' $(RACED)

test-house: check-types lint
	cd web && npx vitest run --testTimeout 20000

# Browsers side by side, each with a test of its own at a time, over the screens as they were built.
test-browser:
	$(GO) test -timeout 40m -parallel 2 ./e2e

test-screens: web test-browser

RUNS ?= 20
## test-often: the browser tests twenty times over, every fourth time beside four busy loops: none may fail
.PHONY: test-often
test-often: tools web
	$(GO) test -c -o bin/e2e.test ./e2e
	@cd e2e && for run in $$(seq $(RUNS)); do \
		loops=""; \
		if [ $$((run % 4)) = 0 ]; then for k in 1 2 3 4; do (while :; do :; done) & loops="$$loops $$!"; done; fi; \
		OFTEN=1 ../bin/e2e.test -test.parallel 2 -test.timeout 60m > ../bin/e2e.$$run.txt 2>&1; failed=$$?; \
		[ -z "$$loops" ] || kill $$loops; \
		echo "run $$run$${loops:+ beside busy loops}: $$([ $$failed = 0 ] && tail -1 ../bin/e2e.$$run.txt || grep -E '^ *--- FAIL' ../bin/e2e.$$run.txt)"; \
		[ $$failed = 0 ] || exit 1; \
	done

# Chromium for the browser tests, a C compiler for the race detector.
.PHONY: tools
tools:
	@command -v chromium >/dev/null && command -v gcc >/dev/null || \
		(apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium gcc libc6-dev)

## browsers: the same short journey in Chromium, Firefox and WebKit
.PHONY: browsers
browsers: tools web
	@command -v firefox >/dev/null && command -v WebKitWebDriver >/dev/null && command -v Xvfb >/dev/null || \
		(apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq firefox-esr webkit2gtk-driver xvfb)
	BROWSERS=1 $(GO) test -count=1 -timeout 10m -v ./e2e/browsers

## bench: the figures that the docs state
bench:
	$(GO) test -run '^$$' -bench . -benchmem ./internal/core/chord ./internal/core/lane/sketch ./internal/core/smf ./internal/server

## fuzz: half a minute for each reader
fuzz:
	$(GO) test -run '^$$' -fuzz FuzzParse -fuzztime 30s -fuzzminimizetime 10x ./internal/core/document
	$(GO) test -run '^$$' -fuzz FuzzRead -fuzztime 30s -fuzzminimizetime 10x ./internal/core/piece
	$(GO) test -run '^$$' -fuzz FuzzStarter -fuzztime 30s -fuzzminimizetime 10x ./internal/core/starter
	$(GO) test -run '^$$' -fuzz FuzzOpen -fuzztime 30s -fuzzminimizetime 10x ./internal/core/files
	$(GO) test -run '^$$' -fuzz FuzzDecode -fuzztime 30s -fuzzminimizetime 10x ./internal/core/smf
	$(GO) test -run '^$$' -fuzz FuzzSymbol -fuzztime 30s -fuzzminimizetime 10x ./internal/core/chord
	$(GO) test -run '^$$' -fuzz FuzzLine -fuzztime 30s -fuzzminimizetime 10x ./internal/core/chord

## soak: ten minutes: good and hostile requests all at once, then the heaviest documents one by one
soak: web
	SOAK=5m $(GO) test -count=1 -timeout 20m -v -run Soak ./cmd/agrimony

## measure: how long a person waits for an edit of a large clip, in the browser
measure: web
	MEASURE=1 $(GO) test -count=1 -timeout 30m -v -run Measure ./e2e | grep -E "median|late|as sound"

## shots: make the pictures in docs/screenshots
shots: web
	SCREENSHOTS=$(CURDIR)/docs/screenshots $(GO) test -count=1 -run Screenshots ./e2e

clean:
	rm -rf bin dist web/node_modules && find web/dist -mindepth 1 ! -name .keep -delete
