# The two commands: make demo, make test. Go is all the first one needs.
.PHONY: mutate demo test test-all lint bench chromium build fuzz shots mutants days sweep

build:
	CGO_ENABLED=0 go build -trimpath -ldflags "-s -w" -o bin/ornamen ./cmd/ornamen

demo: build
	./bin/ornamen demo

# A ladder: every test, plain and without cgo, browser tests in parallel tabs among them,
# then the race detector where goroutines share work. Under four minutes on two cores,
# compiling included; test-all is the night's run.
test: chromium
	@test -z "$$(gofmt -l $$(git ls-files '*.go'))" || { echo "gofmt would change:"; gofmt -l $$(git ls-files '*.go'); exit 1; }
	CGO_ENABLED=0 go test -vet=off -timeout 10m ./...
	go test -race -timeout 10m -run '^Test(Work|Bound|Concurrent|Ways|FixesHelp)$$' ./core/cache ./core/judge ./core/propose ./internal/jobs

# Everything vetted, everything under the race detector, the exhaustive searches at full
# length.
test-all: chromium
	go vet ./...
	CGO_ENABLED=0 ORNAMEN_EXHAUSTIVE=1 go test -count=1 -timeout 60m ./...
	go test -race -timeout 60m ./...

# What nobody uses, and what is written in a way that goes wrong: go vet, staticcheck and deadcode, all
# tools of this module.
lint:
	go vet ./...
	go tool staticcheck ./...
	go run ./tools/style ./...
	@test -z "$$(go tool deadcode -test ./...)" || { go tool deadcode -test ./...; exit 1; }

# The browser tests drive Debian's Chromium, its headless build where there is one; the race
# detector wants gcc.
chromium:
	@{ command -v chromium-headless-shell || command -v chromium; } >/dev/null || { \
		echo "installing Chromium from Debian's packages"; $(apt) update -qq; \
		$(apt) install chromium-headless-shell || $(apt) install chromium; }
	@command -v gcc >/dev/null || { $(apt) update -qq; $(apt) install gcc libc6-dev; }

apt = $$(test "$$(id -u)" = 0 || command -v sudo) env DEBIAN_FRONTEND=noninteractive apt-get -y -qq --no-install-recommends

# How long an edit takes, how the search grows, and what is lost when the program is killed: nothing.
bench:
	go test -run '^$$' -bench . -benchmem ./core/... ./internal/store ./internal/web
	go test -count=1 -v -run 'CalibrateWorlds|YearOfPractice' ./core/practice | grep -E 'shown after|longest wait'
	ORNAMEN_EXHAUSTIVE=1 CGO_ENABLED=0 go test -count=1 -v -run 'TestKilled' ./internal/store | grep -E 'kills of'
	ORNAMEN_EXHAUSTIVE=1 CGO_ENABLED=0 go test -count=1 -v -run 'TestDearRequestsClosed' ./internal/web | grep 'dear requests'

# Half a minute for every parser; what is found is not made small first, which would take the time.
fuzz:
	go test -run '^$$' -fuzz FuzzParse -fuzztime 30s -fuzzminimizetime 10x ./core/lick
	go test -run '^$$' -fuzz FuzzDecode -fuzztime 30s -fuzzminimizetime 10x ./format/tab
	go test -run "^$$" -fuzz FuzzDecode -fuzztime 30s -fuzzminimizetime 10x ./format/musicxml
	go test -run "^$$" -fuzz FuzzDecode -fuzztime 30s -fuzzminimizetime 10x ./format/midi
	go test -run '^$$' -fuzz FuzzPalette -fuzztime 30s -fuzzminimizetime 10x ./core/music
	go test -run '^$$' -fuzz FuzzPhrase -fuzztime 30s -fuzzminimizetime 10x ./core/phrase
	go test -run '^$$' -fuzz FuzzRecipe -fuzztime 30s -fuzzminimizetime 10x ./core/run

# Every control of every screen is pressed, and two hundred recipes are said word by word. About an hour.
sweep: chromium
	ORNAMEN_EXHAUSTIVE=1 CGO_ENABLED=0 go test -vet=off -count=1 -timeout 120m -parallel 3 -run 'TestSweep|TestSentenceSaysRecipes|TestPeople' ./e2e

# The pictures of the README, from the demo data.
shots: chromium
	mkdir -p docs/screenshots
	ORNAMEN_SHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run TestShots ./e2e

# One-line changes of rules, defaults and formulas, each of which a test must notice.
mutants:
	go run ./tools/mutants

# Forty random changes of one operator, boundary, constant or statement in each package, and how many of them a test
# notices: a night's run. P names other packages, SEED other changes.
P ?= ./core/... ./format/... ./internal/...
SEED ?= 1
mutate:
	go run ./tools/mutate -n 40 -seed $(SEED) $(P)

# Plan, log, demo and the stand in the browser on 400 days, at several hours and in five time zones.
days: chromium
	ORNAMEN_EXHAUSTIVE=1 go test -count=1 -timeout 60m -run AnyDay ./core/practice ./internal/demo ./e2e
