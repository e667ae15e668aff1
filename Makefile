# `make demo` and `make test` set up all they need on a fresh Debian machine.

PYTHON := .venv/bin/python
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)
WEB_SOURCES := $(shell find web/src web/public web/index.html web/*.ts web/package.json 2>/dev/null)

.PHONY: demo serve test check setup system bench voices words fonts types screenshots clean

demo: setup
	$(PYTHON) manage.py load_demo
	$(PYTHON) manage.py serve

serve: setup
	$(PYTHON) manage.py serve

test: setup check
	$(PYTHON) -W ignore manage.py test tests --timing

check: setup
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy
	.venv/bin/lint-imports
	$(PYTHON) manage.py makemigrations --check --dry-run
	$(PYTHON) manage.py export_openapi_schema --api hovvet.server.api.api --indent 1 --output data/openapi.json
	diff -u docs/openapi.json data/openapi.json || { echo "docs/openapi.json is stale: run make types"; exit 1; }
	cd web && npx openapi-typescript ../docs/openapi.json -o ../data/schema.ts
	diff -u web/src/api/schema.ts data/schema.ts || { echo "The front end's types are stale: run make types"; exit 1; }
	cd web && npm run -s check && npm run -s lint && npm run -s test

setup: system .venv/ready web/node_modules/ready web/dist/index.html
	@mkdir -p data
	@$(PYTHON) manage.py migrate -v 0

system:
	@command -v ffmpeg >/dev/null && command -v chromium >/dev/null && command -v espeak-ng >/dev/null || \
	  { $(SUDO) apt-get update -q && DEBIAN_FRONTEND=noninteractive $(SUDO) apt-get install -yq --no-install-recommends ffmpeg chromium espeak-ng; }

.venv/ready: requirements.lock pyproject.toml
	python3 -m venv .venv
	.venv/bin/pip install -q -r requirements.lock
	.venv/bin/pip install -q --no-deps -e .
	@touch $@

web/node_modules/ready: web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	@touch $@

web/dist/index.html: web/node_modules/ready $(WEB_SOURCES)
	cd web && npm run -s build

# What follows is run by hand when something it makes should change.

types: .venv/ready web/node_modules/ready
	$(PYTHON) manage.py export_openapi_schema --api hovvet.server.api.api --indent 1 --output docs/openapi.json
	cd web && npm run -s types

bench: setup
	$(PYTHON) bench/run.py

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
	rm -rf .venv web/node_modules web/dist data
