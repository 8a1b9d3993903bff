# make demo: the window with the demo project.  make test: every check.  Both set up what is missing first.
.PHONY: setup setup-dev demo run test lint bench screenshots clean
PY := .venv/bin/python

setup:
	@tools/setup.sh app

setup-dev:
	@tools/setup.sh dev

demo: setup
	.venv/bin/balken --demo

run: setup
	.venv/bin/balken

lint: setup-dev
	.venv/bin/ruff check src tests tools bench
	.venv/bin/ruff format --check src tests tools bench
	.venv/bin/mypy
	.venv/bin/lint-imports

test: lint
	QT_QPA_PLATFORM=offscreen $(PY) -m pytest -n 2 --dist loadfile

bench: setup-dev
	QT_QPA_PLATFORM=offscreen $(PY) bench/bench.py

screenshots: setup-dev
	QT_QPA_PLATFORM=offscreen $(PY) tools/screenshots.py docs/screenshots

clean:
	rm -rf .venv .mypy_cache .ruff_cache .pytest_cache .import_linter_cache .hypothesis
