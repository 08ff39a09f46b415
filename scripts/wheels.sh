#!/usr/bin/env bash
# Builds the source distribution and a wheel for each kind of processor that there is a compiler for: scripts/wheels.sh [FOLDER]
# The one for ARM64 needs aarch64-linux-gnu-gcc (Debian: gcc-aarch64-linux-gnu).
set -euo pipefail
unset PYTHONPATH PYTHONHOME
here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
out="$(realpath -m "${1:-$here/dist}")"
python="${PYTHON:-$here/.venv/bin/python}"
stage="$(mktemp -d)"
trap 'rm -rf "$stage"' EXIT
mkdir -p "$out" "$stage/source"
cp -r "$here"/{src,setup.py,pyproject.toml,MANIFEST.in,README.md,LICENSE} "$stage/source/"
rm -f "$stage/source/src/young_tremor/kernels/_kernels.so"  # of this checkout
rm -rf "$stage"/source/src/*.egg-info
find "$stage/source" -name __pycache__ -type d -prune -exec rm -rf {} +
cd "$stage/source"

build() {
  # what setuptools says is seen only where it fails
  "$python" -c "import sys; from setuptools import build_meta; build_meta.build_$1(sys.argv[1])" "$out" > "$stage/log" 2>&1 \
    || { cat "$stage/log" >&2; exit 1; }
}

build_wheel() {
  rm -rf "$stage/build" && mkdir "$stage/build"
  tar xzf "$out"/young_tremor-*.tar.gz -C "$stage/build" --strip-components 1  # from what is published
  (cd "$stage/build" && build wheel)
}

build sdist
build_wheel
if command -v aarch64-linux-gnu-gcc > /dev/null && [ "$(uname -m)" != aarch64 ]; then
  export _PYTHON_HOST_PLATFORM=linux-aarch64 CC=aarch64-linux-gnu-gcc LDSHARED="aarch64-linux-gnu-gcc -shared"
  build_wheel
fi
ls -1 "$out"
