# `make` alone lists the targets. Everything is installed into .venv from the locked files.
SHELL := /bin/bash
PYTHON ?= $(shell command -v python3.11 || command -v python3)
VENV := .venv
BIN := $(VENV)/bin
PORT ?= 8000
DEMO := EXTENDUM_DEMO=1 EXTENDUM_DATA=var/demo
SERVE = EXTENDUM_DEMO= HOST=$(HOST) PORT=$(PORT) CERT=$(CERT) KEY=$(KEY)
INSTALL := $(BIN)/python -m pip install --quiet --disable-pip-version-check
.PHONY: help demo serve user backup restore test lint css lock bench bench-stage bench-page bench-rooms bench-load bench-hear learn-hearing attack try-wheel audit test-postgres walk shots figures schema clean

help: ## list the targets
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## (.*)/  make \1	\2/' | expand -t 22

$(VENV)/made: 
	@$(PYTHON) -c 'import sys; sys.exit(sys.version_info[:2] != (3, 11))' || { echo "Python 3.11 is needed; found $$($(PYTHON) --version). Name one: make PYTHON=/path/to/python3.11"; exit 1; }
	@$(PYTHON) -m venv $(VENV) || { echo "The venv module is missing. On Debian: apt-get install python3-venv"; exit 1; }
	@touch $@

$(VENV)/run: $(VENV)/made requirements/run.txt pyproject.toml
	@echo "Installing what the application needs ..."
	@$(INSTALL) --require-hashes -r requirements/run.txt
	@$(INSTALL) --no-deps --no-build-isolation -e .
	@touch $@

$(VENV)/dev: $(VENV)/run requirements/dev.txt
	@echo "Installing what the tests need ..."
	@$(INSTALL) --require-hashes -r requirements/dev.txt
	@touch $@

# What a database or a cache of another machine needs, where one is named.
$(VENV)/grow: $(VENV)/run requirements/grow.txt
	@$(INSTALL) --require-hashes -r requirements/grow.txt
	@touch $@
GROWN := $(if $(EXTENDUM_DATABASE)$(EXTENDUM_CACHE),$(VENV)/grow)

demo: $(VENV)/run ## start the application with demo data on 127.0.0.1 (PORT=8000)
	@$(DEMO) PORT=$(PORT) $(BIN)/python -m extendum.web.serve

HOST ?= 127.0.0.1
serve: $(VENV)/run $(GROWN) ## serve a venue's network with sign-in (HOST=address CERT=file KEY=file PORT=8000)
	@$(SERVE) $(BIN)/python -m extendum.web.serve

user: $(VENV)/run $(GROWN) ## make an account for serve, or give it a new password (NAME=name)
	@$(SERVE) $(BIN)/python manage.py migrate --verbosity 0
	@$(SERVE) $(BIN)/python manage.py make_user $(NAME)

backup: $(VENV)/run ## copy everything into one file while it runs (FILE=where, or in the data folder)
	@$(SERVE) $(BIN)/python manage.py backup $(FILE)

restore: $(VENV)/run ## put a backup in the place of everything (FILE=backup)
	@$(SERVE) $(BIN)/python manage.py restore $(FILE)

test: $(VENV)/dev ## run all tests: core, properties, formats, web and browser
	@bash scripts/chromium
	@$(BIN)/pytest -n auto --dist worksteal

test-postgres: $(VENV)/dev $(VENV)/grow ## run the tests of the web on a PostgreSQL of their own
	@scripts/on-postgres $(BIN)/pytest -n auto tests/web

lint: $(VENV)/dev ## ruff, mypy, the import rules, and the scripts where there is Node
	@$(BIN)/ruff check . && $(BIN)/ruff format --check --quiet . && $(BIN)/mypy && $(BIN)/lint-imports --no-logo
	@scripts/lint-scripts

css: ## build the stylesheet and copy fonts (needs Node; the results are committed)
	@npm ci --silent --no-progress && npm run --silent build

lock: $(VENV)/made ## pin every dependency again, with hashes
	@$(INSTALL) pip-tools
	@for f in run dev grow; do $(BIN)/pip-compile --quiet --generate-hashes --no-emit-index-url --no-emit-find-links --strip-extras --allow-unsafe requirements/$$f.in -o requirements/$$f.txt; done

MINUTES ?= 2
bench: $(VENV)/dev ## measure every budget, MINUTES of the Stage (2; the whole class: 30)
	@bash scripts/chromium
	@$(BIN)/python -m bench.budgets $(MINUTES)

bench-stage: $(VENV)/dev ## play a class of thirty minutes to its end and measure how true the Stage is to it
	@bash scripts/chromium
	@$(BIN)/python -m bench.stage

bench-page: $(VENV)/dev ## measure the first load of the Desk and the memory of the server
	@bash scripts/chromium
	@$(BIN)/python -m bench.page

CLIENTS ?= 200
attack: $(VENV)/dev ## attack a server of its own: slow clients, odd documents and numbers, damaged rows (CLIENTS=200)
	@$(BIN)/python -m bench.attack $(CLIENTS)

bench-load: $(VENV)/dev ## measure N instructors who edit at once (N=30)
	@$(BIN)/python -m bench.load $(or $(N),30)

bench-exhaustive: $(VENV)/dev ## hold the search for a class against all classes there are, on 200 small libraries
	@$(BIN)/python -m bench.exhaustive

bench-propose: $(VENV)/dev ## propose classes for N generated briefs and measure how near to the best they are (N=60)
	@$(BIN)/python -m bench.propose $(or $(N),60)

bench-film: $(VENV)/dev ## make the film of a demo class and measure it: seconds, memory, counts, sound against picture
	@$(BIN)/python -m bench.film

learn-hearing: $(VENV)/dev ## count in tests/data/heard (dev and lesson) what recordings are heard by, and write it into the data
	@$(BIN)/python -m bench.learn

bench-hear: $(VENV)/dev ## hear the recordings in tests/data/heard and count what was found of what is in them
	@$(BIN)/python -m bench.hear

bench-cutting: $(VENV)/dev ## cut long recordings of the demo classes, read by espeak-ng, into their texts
	@$(BIN)/python -m bench.cutting

try-wheel: $(VENV)/made ## build the wheel and try it in a fresh virtual environment, from an empty folder
	@PYTHON=$(PYTHON) scripts/try-wheel

audit: $(VENV)/run ## look every dependency up among known vulnerabilities (needs their database; fails without it)
	@$(PYTHON) -m venv $(VENV)/audit && $(VENV)/audit/bin/python -m pip install --quiet --disable-pip-version-check pip-audit
	@for f in run grow; do $(VENV)/audit/bin/pip-audit --strict --require-hashes --disable-pip --progress-spinner off -r requirements/$$f.txt || exit 1; done
	@npm audit --omit=dev

walk: $(VENV)/dev ## walk the way of a new user to a class of their own, and count
	@bash scripts/chromium
	@$(BIN)/python -m bench.walk

bench-rooms: $(VENV)/dev ## measure N class screens that follow one class (N=300)
	@$(BIN)/python -m bench.rooms $(or $(N),300)

shots: $(VENV)/dev ## take the pictures in docs/screenshots from the demo data
	@bash scripts/chromium
	@$(BIN)/python -m bench.shots

figures: $(VENV)/dev ## build the drawings of the figures that changed, and contact sheets of all into var/figures
	@bash scripts/chromium
	@$(BIN)/python -m extendum.formats.figures
	@$(BIN)/python -m bench.figures

schema: $(VENV)/run ## write the JSON Schema of the document again
	@$(BIN)/python -m extendum.formats.schema > docs/class.schema.json

clean: ## remove what make installed and built; the data in var/ stays
	@rm -rf $(VENV) node_modules .mypy_cache .ruff_cache .pytest_cache .hypothesis
