#!/usr/bin/env bash
# Proves the lower bounds in pyproject.toml: the oldest versions that they allow, in an environment of their own, and the
# tests of everything but the window. Both, or one after the other: scripts/lower_bounds.sh [prepare FOLDER | test FOLDER]
set -euo pipefail
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
part="${1:-both}" oldest="${2:-$(mktemp -d)}"
[ "$part" = prepare ] || trap 'rm -rf "$oldest"' EXIT

if [ "$part" != test ]; then
  python3 -m venv "$oldest"
  python3 - "$here/pyproject.toml" > "$oldest/list" <<'PY'
import re, sys, tomllib
with open(sys.argv[1], "rb") as file:
    for each in tomllib.load(file)["project"]["dependencies"]:
        name, low = re.match(r"([\w-]+)>=([\d.]+)", each).groups()
        print(f"{name}=={low}.*")
PY
  "$oldest/bin/pip" install -q --disable-pip-version-check -r "$oldest/list" \
    pytest pytest-qt pytest-xdist hypothesis jsonschema "setuptools>=77" wheel
fi

if [ "$part" != prepare ]; then
  cd "$here"
  # the kernels know nothing of Python: those that are built serve
  [ -e src/young_tremor/kernels/_kernels.so ] || "$oldest/bin/python" setup.py -q build_ext --inplace
  # the published schema is worded by the newest library
  QT_QPA_PLATFORM=offscreen PYTHONPATH="$here/src" "$oldest/bin/pytest" -n 2 -k "not schema" \
    tests/test_pixels.py tests/test_sources.py tests/test_document.py tests/test_units.py tests/test_render.py
fi
