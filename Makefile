# Two commands do all there is to do on a fresh machine: make demo, and make test.
SHELL := /bin/bash
# Byte code is kept: without it every start compiles all of it anew.
unexport PYTHONDONTWRITEBYTECODE
export PIP_DISABLE_PIP_VERSION_CHECK := 1

BIN := .venv/bin
UV := uv==0.13.9
NODE := source scripts/node.sh &&
WEB := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: chromium check-types check-rules check-web demo test test-long coverage mutants check format lint bench shots types lock wheel setup clean
.DEFAULT_GOAL := demo

demo: setup
	@$(BIN)/mutabilis serve --demo --database .demo/mutabilis.sqlite3

setup: .stamps/python .stamps/web

# What does not wait for each other is fetched and checked side by side.
MAKEFLAGS += --jobs=3

chromium:
	@scripts/chromium.sh

test: setup chromium .stamps/tests
	$(BIN)/python -m pytest

# The properties with ten times as many examples, others each time.
test-long: setup chromium
	MUTABILIS_TESTS=long $(BIN)/python -m pytest

# What the tests reach, line by line.
coverage: setup
	$(BIN)/coverage erase
	$(BIN)/coverage run -m pytest -n 0 tests/core tests/store tests/formats tests/api tests/test_cli.py tests/test_data.py
	$(BIN)/coverage report --skip-covered --sort cover

# Small faults put into the core, one at a time: does a test notice each?
mutants: setup
	$(BIN)/python -m scripts.mutants

# Format, lint, types, import rules, facts, and the front end's types against the server's schema.
check: check-types check-rules check-web .stamps/tests

check-types: setup
	$(BIN)/mypy

check-rules: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/lint-imports
	$(BIN)/python scripts/check_facts.py
	$(BIN)/vulture

check-web: setup
	$(NODE) cd web && npm run --silent check
	$(BIN)/python scripts/openapi.py web/openapi.json
	$(NODE) cd web && npx --no-install openapi-typescript openapi.json --check --output src/api/schema.d.ts

format: setup
	$(BIN)/ruff check --fix -q . ; $(BIN)/ruff format .
	$(NODE) cd web && npx --no-install biome check --write .

types: setup
	$(BIN)/python scripts/openapi.py web/openapi.json
	$(NODE) cd web && npm run --silent types

bench: setup chromium
	$(BIN)/python -m scripts.bench

shots: setup chromium
	$(BIN)/python -m scripts.shots

lock: .stamps/python
	$(BIN)/uv pip compile --universal --python-version 3.11 --generate-hashes --no-emit-index-url \
	  --custom-compile-command 'make lock' pyproject.toml --group dev -o requirements.lock -q
	$(NODE) cd web && npm install --package-lock-only

wheel: setup
	$(BIN)/python -m hatchling build -t wheel

clean:
	rm -rf .venv .stamps .demo web/node_modules src/mutabilis/static dist

.stamps/python: requirements.lock pyproject.toml scripts/python.sh
	@mkdir -p .stamps
	@scripts/python.sh $(UV)
	@touch $@

# What is compiled at a first import is compiled once, while the page is built, and not by each worker of the tests.
.stamps/tests: .stamps/python
	@$(BIN)/python -m pytest -n 0 --collect-only -q >/dev/null
	@touch $@

.stamps/node: web/package-lock.json web/package.json web/.npmrc scripts/node.sh .stamps/python
	@$(NODE) cd web && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

# The pages, and what works without a screen as one script for the tests.
.stamps/web: .stamps/node $(WEB) web/vite.pure.ts
	@$(NODE) cd web && npx --no-install vite build --logLevel warn && npx --no-install vite build --config vite.pure.ts --logLevel warn
	@touch $@
