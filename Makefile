# make demo: the window with the demo project.  make test: every check.  Both set up what is missing first.
.PHONY: setup setup-dev demo run test lint hunt bench screenshots clean
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

# New random examples of the rules that hold for every input, many more than the tests draw; 10,000 damaged files; 2,000
# random edits in the window.  A failure becomes an @example.
hunt: setup-dev
	QT_QPA_PLATFORM=offscreen BALKEN_EXAMPLES=600 $(PY) -m pytest -n 2 -k 'not app and not damaged_files'
	QT_QPA_PLATFORM=offscreen BALKEN_MUTATED=3400 $(PY) -m pytest --timeout=7200 tests/exchange/test_damaged_files.py
	QT_QPA_PLATFORM=offscreen BALKEN_WINDOW_EDITS=2000 $(PY) -m pytest --timeout=7200 tests/app/test_random_edits.py

bench: setup-dev
	QT_QPA_PLATFORM=offscreen $(PY) bench/bench.py

screenshots: setup-dev
	QT_QPA_PLATFORM=offscreen $(PY) tools/screenshots.py docs/screenshots

clean:
	rm -rf .venv .mypy_cache .ruff_cache .pytest_cache .import_linter_cache .hypothesis
