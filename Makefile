# Two commands do everything:  make demo  and  make test
PYTHON ?= $(shell command -v python3.11 || echo python3)
VENV   := .venv
PY     := $(VENV)/bin/python
PIP    := $(PY) -m pip --disable-pip-version-check -q

.PHONY: demo test lint core-test screenshots schema bench clean

demo: $(VENV)/.run
	@$(PY) tools/system_check.py
	@$(PY) -m vastzone demo

test: $(VENV)/.dev
	@$(PY) tools/system_check.py
	QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n 2 --dist loadfile

$(VENV)/bin/python:
	@command -v $(PYTHON) >/dev/null || { echo "Python 3.11 is missing: install the Debian packages python3.11 and python3.11-venv, or run make PYTHON=/path/to/python3"; exit 1; }
	$(PYTHON) -m venv $(VENV) || { rm -rf $(VENV); echo "venv is missing: install the Debian package python3.11-venv"; exit 1; }

$(VENV)/.run: $(VENV)/bin/python requirements/run.lock pyproject.toml
	$(PIP) install --no-deps -r requirements/run.lock
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
	PYTHONPATH=src .venv-core/bin/python -m pytest -c tests/core/pytest.ini --rootdir . tests/core

lint: $(VENV)/.dev
	$(VENV)/bin/ruff check src tests bench tools
	$(VENV)/bin/ruff format --check src tests bench tools
	$(VENV)/bin/mypy
	$(VENV)/bin/lint-imports

screenshots: $(VENV)/.run
	QT_QPA_PLATFORM=offscreen $(PY) tools/screenshots.py

schema: $(VENV)/.run
	$(PY) tools/make_schema.py

bench: $(VENV)/.dev
	QT_QPA_PLATFORM=offscreen $(PY) -m bench

clean:
	rm -rf $(VENV) .venv-core build
