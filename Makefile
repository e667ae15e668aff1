# `make demo` and `make test` set up all they need on a fresh Debian machine.

PYTHON := .venv/bin/python
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)
LOCK := pip-compile -q --generate-hashes --strip-extras --allow-unsafe --no-emit-index-url --no-emit-trusted-host --no-emit-options
WEB_SOURCES := $(shell find web/src web/public web/index.html web/*.ts web/package.json 2>/dev/null)

unexport PYTHONDONTWRITEBYTECODE  # compiled once, not by each of many programs

.PHONY: demo serve test test-core test-server test-pages test-stories test-alone test-checks check checks setup system bench fuzz kills lock licences voices words fonts types screenshots clean

demo: setup
	$(PYTHON) manage.py load_demo
	$(PYTHON) manage.py serve

serve: setup
	$(PYTHON) manage.py serve

# The tests of the core and the server beside those in the browser, which wait more than they work, and the checks; then
# those that measure.
test: setup
	@rm -rf data/parts
	@$(MAKE) --no-print-directory -j4 --output-sync=target test-stories test-pages test-core test-server test-checks && \
	  $(MAKE) --no-print-directory test-alone || { tools/what_failed; exit 1; }

# Recordings are listened to the quick way, but for tests/core/test_careful.py: it takes a third less.
test-core test-server test-stories test-pages: export HOVVET_HEARING := quick

# Four parts that take about as long; those in the browser, which others wait for, first. Those of the core that listen, look and
# export go along with the server.
LISTENING := $(addprefix tests.core.test_,transcribe words_files faces export)

test-core:
	HOVVET_TEST_DB=data/test-core.sqlite3 nice -n 3 tools/part core $(PYTHON) -W ignore manage.py test $(filter-out $(LISTENING),$(subst /,.,$(basename $(wildcard tests/core/test_*.py)))) --timing --noinput

test-server:
	HOVVET_TEST_DB=data/test-server.sqlite3 nice -n 3 tools/part server $(PYTHON) -W ignore manage.py test tests.server $(LISTENING) --timing --noinput

ALONE := tests.e2e.test_playing tests.e2e.test_recorded_in_step tests.e2e.test_voice_in_step
STORIES := $(addprefix tests.e2e.test_,captions deliveries framing house layers long on_screen over_words proof review shelf story voices)

test-stories:
	tools/part stories $(PYTHON) -W ignore manage.py test $(STORIES) --timing --noinput

test-pages:
	tools/part pages $(PYTHON) -W ignore manage.py test $(filter-out $(ALONE) $(STORIES),$(subst /,.,$(basename $(wildcard tests/e2e/test_*.py)))) --timing --noinput

test-alone:
	tools/part alone $(PYTHON) -W ignore manage.py test $(ALONE) --noinput

test-checks:
	tools/part checks $(MAKE) --no-print-directory checks

check: setup
	@$(MAKE) --no-print-directory checks

checks:
	$(PYTHON) tools/no_machine_paths.py
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	.venv/bin/lint-imports
	$(PYTHON) tools/floors.py
	$(PYTHON) tools/make_formats.py --check
	$(PYTHON) manage.py makemigrations --check --dry-run
	$(PYTHON) manage.py export_openapi_schema --api hovvet.server.api.api --indent 1 --output data/openapi.json
	diff -u docs/openapi.json data/openapi.json || { echo "docs/openapi.json is stale: run make types"; exit 1; }
	cd web && npx openapi-typescript ../docs/openapi.json -o ../data/schema.ts
	diff -u web/src/api/schema.ts data/schema.ts || { echo "The front end's types are stale: run make types"; exit 1; }
	cd web && npm run -s check && npm run -s lint && npm run -s test
	$(PYTHON) tools/licences.py --check

# Prints a line a step; the rest goes to data/setup.log.
setup: system
	@$(MAKE) --no-print-directory -j2 --output-sync=line .venv/ready web/dist/packages.json
	@[ -e .venv/careful ] || { tools/quietly "Installing the careful recogniser" tools/weights careful && touch .venv/careful; } || \
	  echo "Speech is recognised the quick way only, in English. Run make setup again to try once more."
	@[ -e .venv/voices ] || { tools/quietly "Installing what tells voices apart" tools/weights voices && touch .venv/voices; } || \
	  echo "Speakers cannot be suggested. Run make setup again to try once more."
	@[ -e .venv/clearer ] || { tools/quietly "Installing what makes speech clearer" tools/weights clearer && touch .venv/clearer; } || \
	  echo "Speech cannot be made clearer. Run make setup again to try once more."
	@[ -e .venv/narrator ] || { tools/quietly "Installing a natural voice" tools/weights narrator && touch .venv/narrator; } || \
	  echo "Text can be read by a plain voice only. Run make setup again to try once more."
	@tools/quietly "Bringing the database up to date" $(PYTHON) manage.py migrate -v 0

system:
	@command -v ffmpeg >/dev/null && command -v chromium-headless-shell >/dev/null && command -v espeak-ng >/dev/null && command -v setpriv >/dev/null && command -v rubberband >/dev/null || \
	  { tools/quietly "Reading Debian's list of packages" $(SUDO) apt-get update && \
	    tools/quietly "Installing ffmpeg, Chromium, espeak-ng and rubberband" $(SUDO) env DEBIAN_FRONTEND=noninteractive \
	      apt-get install -y --no-install-recommends ffmpeg libass9 chromium-headless-shell espeak-ng rubberband-cli util-linux; }

.venv/ready: requirements.lock requirements-dev.lock requirements-installer.lock pyproject.toml
	@tools/quietly "Making a Python environment" python3 -m venv .venv
	@tools/quietly "Installing Python packages" tools/packages requirements-dev.lock
	@tools/quietly "Installing Hovvet" .venv/bin/pip install --no-deps --no-build-isolation -e .
	@touch $@

web/node_modules/ready: web/package-lock.json
	@cd web && ../tools/quietly "Installing npm packages" npm ci --no-audit --no-fund
	@touch $@

web/dist/packages.json: web/node_modules/ready tools/make_emoji.py $(WEB_SOURCES)
	@cd web && ../tools/quietly "Building the page" npm run -s build
	@tools/quietly "Gathering emoji" python3 tools/make_emoji.py web/dist/emoji.zip
	@touch $@

# What follows is run by hand when something it makes should change.

lock:
	python3 -m venv .venv-lock
	.venv-lock/bin/pip install -q pip-tools
	.venv-lock/bin/$(LOCK) -o requirements.lock pyproject.toml
	.venv-lock/bin/$(LOCK) -o requirements-installer.lock requirements-installer.in
	.venv-lock/bin/$(LOCK) --extra dev -c requirements.lock -o requirements-dev.lock pyproject.toml

licences: setup
	$(PYTHON) tools/licences.py

types checks: export HOVVET_DOCUMENTED := 1

types: .venv/ready web/node_modules/ready
	$(PYTHON) manage.py export_openapi_schema --api hovvet.server.api.api --indent 1 --output docs/openapi.json
	cd web && npm run -s types
	$(PYTHON) tools/make_formats.py

# Everything that may be asked, and broken files of all sorts: ten minutes.
fuzz: setup
	$(PYTHON) bench/asking.py 300
	$(PYTHON) bench/fuzz.py 120

# Workers and drawing processes killed at forty moments each, and full disks.
kills: setup
	$(PYTHON) -W ignore bench/killing.py 40

bench: setup
	$(PYTHON) bench/run.py
	$(PYTHON) bench/exports.py
	$(PYTHON) bench/mixes.py
	$(PYTHON) bench/clearer.py
	$(PYTHON) bench/playing.py
	$(PYTHON) bench/board.py
	$(PYTHON) bench/in_step.py
	$(PYTHON) bench/recording.py 1
	$(PYTHON) -W ignore bench/drafts.py
	$(PYTHON) bench/locks.py
	$(PYTHON) bench/people.py
	$(PYTHON) bench/people.py 180 20000

voices:
	python3 -m venv .voices
	.voices/bin/pip install -q -r demo/voices.txt numpy
	.voices/bin/python demo/make_speech.py

words: setup
	$(PYTHON) demo/make_words.py

fonts: .venv/ready web/node_modules/ready
	$(PYTHON) -m hovvet.core.captions.make_fonts web/node_modules

screenshots: setup
	$(PYTHON) docs/make_screenshots.py

clean:
	rm -rf .venv .venv-lock web/node_modules web/dist data
