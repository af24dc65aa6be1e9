# Two commands do everything:  make demo  and  make test
# Any Python from 3.11 on will do: the one called python3, else the newest that is there.
FITS   := import sys; sys.exit(sys.version_info < (3, 11))
PYTHON ?= $(shell for p in python3 python3.13 python3.12 python3.11; do \
            $$p -c "$(FITS)" 2>/dev/null && echo $$p && break; done)
VENV   := .venv
PY     := $(VENV)/bin/python
PIP    := $(PY) -m pip --disable-pip-version-check -q
SEEDS  ?= 1-20
PLANS  ?= demo ready empty full
TIMES  ?= 20

.PHONY: demo test lint coverage core-test screenshots messages trial schema bench looks monkey fuzz kills wheel-test clean

demo: $(VENV)/.run
	@$(PY) tools/system_check.py window
	@$(PY) -m vastzone demo

test: $(VENV)/.dev
	@$(PY) tools/system_check.py
	QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n 2 --dist loadfile --no-loadscope-reorder

$(VENV)/bin/python:
	@test -n "$(PYTHON)" || { echo "Python 3.11 or later is missing: install the Debian packages python3 and python3-venv, or run make PYTHON=/path/to/python3"; exit 1; }
	$(PYTHON) -m venv $(VENV) || { rm -rf $(VENV); echo "venv is missing: install the Debian package python3-venv"; exit 1; }

$(VENV)/.run: $(VENV)/bin/python requirements/run.lock requirements/ports.lock pyproject.toml
	$(PIP) install --no-deps -r requirements/run.lock
	@$(PIP) install --no-deps -r requirements/ports.lock >/dev/null 2>&1 || echo "python-rtmidi cannot be had for this Python: everything works but real MIDI ports. To have them too, install the Debian packages g++, libasound2-dev and libjack-jackd2-dev and run make again after “make clean”."
	$(PIP) install --no-deps --no-build-isolation -e .
	@touch $@

$(VENV)/.dev: $(VENV)/.run requirements/dev.lock
	$(PIP) install --no-deps -r requirements/dev.lock
	@touch $@

# The core and its tests in an environment that has no Qt at all.
core-test: requirements/core.lock
	@test -x .venv-core/bin/python || $(PYTHON) -m venv .venv-core
	.venv-core/bin/python -m pip --disable-pip-version-check -q install --no-deps -r requirements/core.lock
	! .venv-core/bin/python -c "import PySide6" 2>/dev/null
	PYTHONPATH=src .venv-core/bin/python -m pytest -c tests/core.ini --rootdir . tests/core

lint: $(VENV)/.dev
	$(VENV)/bin/ruff check src tests bench tools
	$(VENV)/bin/ruff format --check src tests bench tools
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports
	$(PY) tools/check_qt.py

# Which lines and branches the tests go through.
coverage: $(VENV)/.dev
	QT_QPA_PLATFORM=offscreen $(PY) -m coverage run -m pytest -q --timeout 0
	$(PY) -m coverage report

screenshots: $(VENV)/.run
	QT_QPA_PLATFORM=offscreen $(PY) tools/screenshots.py

# Everything that people read, gathered for translators; translations that are there are compiled.
messages: $(VENV)/.dev
	$(PY) tools/messages.py

# The window in a language of accented letters: what stands there without accents was forgotten.
trial: $(VENV)/.dev
	$(PY) tools/messages.py --trial build/languages
	LANGUAGE=en_XA VASTZONE_LANGUAGES=build/languages $(PY) -m vastzone demo

schema: $(VENV)/.run
	$(PY) tools/make_schema.py

bench: $(VENV)/.dev
	QT_QPA_PLATFORM=offscreen $(PY) -m bench

# Wild hands in the real window: every seed and plan in a process of its own.
monkey: $(VENV)/.dev
	$(PY) -m tests.app.monkeys --seeds $(SEEDS) --plan $(PLANS)

# The laws and the damaged files, many times as often as in the tests.
fuzz: $(VENV)/.dev
	VZ_FUZZ=$(TIMES) QT_QPA_PLATFORM=offscreen $(PY) -m pytest -q --timeout 0 -n 2 tests/files/test_damage.py tests/core/engine tests/core/plan tests/core/proof/test_slices.py tests/core/solve
	@$(PIP) install --only-binary :all: atheris==3.0.0 >/dev/null 2>&1 || echo "atheris does not install here: the coverage-guided part is left out."
	@! $(PY) -c "import atheris" 2>/dev/null || $(PY) -m tests.atheris_files -runs=$(TIMES)000 -max_len=4096

# Every page in every size, size of text, theme and plan: nothing clipped, faint or untold.
looks: $(VENV)/.dev
	VZ_LOOKS=all QT_QPA_PLATFORM=offscreen $(PY) -m pytest -q --timeout 0 -n 2 --dist load tests/app/test_seen.py
	QT_SCALE_FACTOR=1.5 QT_QPA_PLATFORM=offscreen $(PY) -m pytest -q tests/app/test_seen.py -k whole
	QT_SCALE_FACTOR=2 QT_QPA_PLATFORM=offscreen $(PY) -m pytest -q tests/app/test_seen.py -k whole

# Programs killed while they save, copy and start.
kills: $(VENV)/.dev
	$(PY) -m tests.kills --times 300

# The package as others install it: built, put into an environment of its own, and run.
wheel-test: $(VENV)/.dev
	rm -rf build/wheel build/wheel-venv
	$(PIP) wheel --no-deps --no-build-isolation -w build/wheel .
	$(PY) -m venv build/wheel-venv
	build/wheel-venv/bin/pip --disable-pip-version-check -q install --no-deps -r requirements/run.lock
	build/wheel-venv/bin/pip --disable-pip-version-check -q install --no-deps build/wheel/*.whl
	cd build && wheel-venv/bin/vastzone check demo-ready && wheel-venv/bin/vastzone devices >/dev/null
	cd build && wheel-venv/bin/vastzone cards demo -o wheel/cards --force >/dev/null && test -s wheel/cards/cards.pdf

clean:
	rm -rf $(VENV) .venv-core build
