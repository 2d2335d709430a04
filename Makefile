# Vendaval. Two commands do everything: make demo, make test.
SHELL := /bin/bash
.DEFAULT_GOAL := help
PORT ?= 8000
PY := .venv/bin/python
UV_VERSION := 0.13.9
NPM := npx --yes npm@10.9.9
# Node stands in the environment where the machine has none that will do (scripts/need-node).
export PATH := $(CURDIR)/.venv/bin:$(PATH)
export OMP_NUM_THREADS := 1
export OPENBLAS_NUM_THREADS := 1
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts

.PHONY: help demo standins demo-reset dev test check check-content check-types check-style check-contracts format openapi screenshots strings fuzz bench-tools benchmark load-test release clean

help: ## List these commands
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 16

demo: .stamps/python .stamps/build ## Set up, build, load the demo data, serve on PORT (8000)
	@$(PY) manage.py demo
	@echo "Vendaval is on http://127.0.0.1:$(PORT) (stop with Ctrl-C)"
	@export DJANGO_SETTINGS_MODULE=vendaval.config.settings.dev; trap 'kill 0' EXIT; \
	  $(PY) manage.py jobs -v 0 & .venv/bin/gunicorn --bind 127.0.0.1:$(PORT) --log-level warning

standins: .stamps/python ## Run the stand-ins for systems outside on 8010: record store, platform
	@$(PY) standins/manage.py begin
	@echo "The stand-ins are on http://127.0.0.1:8010 (stop with Ctrl-C)"
	@.venv/bin/gunicorn -c standins/gunicorn_conf.py --bind 127.0.0.1:8010 --log-level warning

demo-reset: .stamps/python ## Remove the demo's data, so that the next make demo starts afresh
	@rm -f var/vendaval.sqlite3 var/vendaval.sqlite3-wal var/vendaval.sqlite3-shm var/vendaval.sqlite3.acknowledged-*
	@echo "The demo's data is gone. make demo makes it anew."

dev: .stamps/python .stamps/web ## Serve with reloading: API on 8000, web on 5173
	@$(PY) manage.py demo
	@trap 'kill 0' EXIT; DJANGO_SETTINGS_MODULE=vendaval.config.settings.dev .venv/bin/gunicorn --reload --bind 127.0.0.1:8000 & cd web && npx vite

CHECKS := check-content check-types check-style check-contracts

test: ## Run all checks and all tests, in the browser too
	@$(MAKE) -j2 --no-print-directory --output-sync=target $(CHECKS) .stamps/build
	@$(PY) scripts/check_sizes.py
	@scripts/need-chromium
	@echo "== web tests"; cd web && npx vitest run --reporter=dot
	@echo "== tests"
	@DJANGO_ALLOW_ASYNC_UNSAFE=true $(PY) -W "ignore::UserWarning" manage.py test --noinput --parallel 3 core server e2e

check: ## Check format, lint, types, import contracts, API contract and content
	@$(MAKE) -j2 --no-print-directory --output-sync=target $(CHECKS)
	@echo "== sizes"; $(PY) scripts/check_sizes.py

check-style: .stamps/python .stamps/web
	@echo "== format and lint"; .venv/bin/ruff format --check -q . && .venv/bin/ruff check -q . && $(PY) scripts/bare_strings.py && cd web && npx biome check src scripts --error-on-warnings && node scripts/bare-strings.js

check-types: .stamps/python .stamps/web
	@echo "== types"; PYTHONPATH=core:server:. .venv/bin/mypy core/vendaval_core server/vendaval && cd web && npx tsc --noEmit

check-contracts: .stamps/python .stamps/web
	@echo "== import contracts"; PYTHONPATH=core:server:. .venv/bin/lint-imports --no-cache > .stamps/imports.log || { cat .stamps/imports.log; exit 1; }
	@mkdir -p var; echo "== migrations"; $(PY) manage.py makemigrations --check --dry-run -v0
	@echo "== API contract"; scripts/check-openapi
	@echo "== reading grade"; cd web && npx lingui extract --clean --workers 1 > /dev/null && cd .. && $(PY) scripts/strings.py --grades

check-content: .stamps/python
	@echo "== content"; $(PY) manage.py load_pack --check

format: .stamps/python .stamps/web ## Format, and fix what the linters can fix
	@.venv/bin/ruff check --fix -q . ; .venv/bin/ruff format -q . ; cd web && npx biome check --write src

openapi: .stamps/python .stamps/web ## Write docs/openapi.json, TypeScript types and pack schemas from the code
	@$(PY) manage.py export_openapi_schema --api vendaval.config.api.api --indent 1 --output docs/openapi.json
	@cd web && npm run --silent api-types
	@$(PY) scripts/write_schemas.py

screenshots: .stamps/build ## Take docs/screenshots from fresh demo data
	@scripts/need-chromium
	@$(PY) scripts/take_screenshots.py

strings: .stamps/python .stamps/web ## Print every sentence of the interface, and its reading grade
	@cd web && npx lingui extract --clean --workers 1 > /dev/null
	@$(PY) scripts/strings.py

fuzz: .stamps/python ## Send CALLS (6000) made-up calls to the API with SEED (1): no 5xx, none over a second
	@mkdir -p var; VENDAVAL_FUZZ_CALLS=$${CALLS:-6000} VENDAVAL_FUZZ_SEED=$${SEED:-1} \
	  $(PY) -W "ignore::UserWarning" manage.py test --noinput e2e.test_fuzz

bench-tools: .stamps/bench ## Install the libraries that the benchmark compares with

benchmark: .stamps/bench ## Measure times on a copy of the demo data, as JSON
	@$(PY) manage.py benchmark --json

load-test: .stamps/build ## Put the application under load, on a copy of the demo data
	@$(PY) manage.py load_test

release: ## Date the changelog, set VERSION, commit and tag
	@$(PY) scripts/release.py "$(VERSION)"

clean: ## Remove what was built, but not the demo's data
	@rm -rf .venv .stamps web/node_modules web/dist var/static

.stamps/python: requirements/dev.txt
	@mkdir -p .stamps
	@scripts/need-tools
	@test -x .venv/bin/python || python3 -m venv .venv
	@echo "Installing Python packages (under a minute)"
	@.venv/bin/python -m pip install -q --disable-pip-version-check "uv==$(UV_VERSION)" \
	  && .venv/bin/uv pip install -q --require-hashes -r requirements/dev.txt \
	  || .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r requirements/dev.txt
	@touch $@

.stamps/bench: .stamps/python requirements/bench.txt
	@.venv/bin/uv pip install -q --require-hashes -r requirements/bench.txt
	@touch $@

.stamps/node: .stamps/python requirements/node.txt
	@scripts/need-node
	@touch $@

.stamps/web: .stamps/node web/package-lock.json
	@echo "Installing web packages (under a minute)"
	@cd web && $(NPM) ci --no-audit --no-fund --loglevel=error
	@touch $@

.stamps/build: .stamps/python .stamps/web $(WEB_SOURCES)
	@echo "Building the web application"
	@cd web && npx vite build --logLevel warn
	@$(PY) manage.py collectstatic --noinput --clear --ignore ninja -v0
	@touch $@
