# Sourced by ./start and ./check: the virtual environment and the system libraries that Qt needs.
venv="$here/.venv"

say() { printf 'young-tremor: %s\n' "$*" >&2; }

install_packages() {
  # root installs; anyone else is told the line to type
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    say "installing $*"
    apt-get install -y -q "$@" >/dev/null 2>&1 || { apt-get update -q >/dev/null && apt-get install -y -q "$@" >/dev/null; }
  else
    say "something is missing on this machine. Type this, then try again:"
    say "  sudo apt-get install $*"
    exit 1
  fi
}

find_python() {
  local each
  for each in python3 python3.14 python3.13 python3.12 python3.11; do
    if command -v "$each" >/dev/null && "$each" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      command -v "$each"
      return
    fi
  done
}

make_venv() {
  local python
  if [ -x "$venv/bin/python" ] && "$venv/bin/python" -c '' 2>/dev/null; then return; fi
  python="$(find_python)"
  if [ -z "$python" ]; then
    install_packages python3 python3-venv
    python="$(find_python)"
    [ -n "$python" ] || { say "Python 3.11 or newer is needed and was not found."; exit 1; }
  fi
  "$python" -c 'import ensurepip, venv' 2>/dev/null || install_packages python3-venv
  rm -rf "$venv"
  say "making a virtual environment in .venv"
  "$python" -m venv "$venv"
}

install_from() {
  # $1: a pinned list; done again only when the lists or the project's own metadata change
  local stamp sum
  stamp="$venv/.$(basename "$1").done"
  sum="$(cat "$here"/requirements/*.txt "$here/pyproject.toml" "$here/setup.py" "$here"/src/young_tremor/kernels/native/* \
    | sha256sum) $here"
  if [ "$(cat "$stamp" 2>/dev/null)" = "$sum" ]; then return; fi
  need_compiler
  say "installing what is needed (once)"
  "$venv/bin/python" -m pip install -q --disable-pip-version-check -r "$1"
  "$venv/bin/python" -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e "$here"
  # modules compiled ahead, also where Python is told not to keep what it compiles: half of a start otherwise
  "$venv/bin/python" -m compileall -q -j 0 "$here/src" || true
  printf '%s' "$sum" > "$stamp"
}

need_compiler() {
  # builds the kernels; without one the slower stand-ins run
  command -v cc >/dev/null || command -v gcc >/dev/null || command -v clang >/dev/null && return 0
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    install_packages gcc libc6-dev || say "no compiler could be installed: frames will take several times as long"
  else
    say "no compiler was found: frames will take several times as long. To build the kernels, type this and start again:"
    say "  sudo apt-get install gcc libc6-dev"
  fi
}

setup_app() { make_venv; install_from "$here/requirements/app.txt"; }
setup_dev() { make_venv; install_from "$here/requirements/dev.txt"; }

need_window_libraries() {
  # what Qt's own libraries cannot find, by the package that holds it
  local qt missing package packages=()
  qt="$("$venv/bin/python" -c 'import PySide6, os; print(os.path.dirname(PySide6.__file__))')"
  missing="$(ldd "$qt"/QtWidgets.abi3.so "$qt"/Qt/plugins/platforms/libqxcb.so "$qt"/Qt/plugins/platforms/libqoffscreen.so \
    2>/dev/null | awk '/not found/ {print $1}' | sort -u)"
  [ -n "$missing" ] || return 0
  while read -r library; do
    package="$(library_package "$library")"
    [ -n "$package" ] && packages+=("$package")
  done <<< "$missing"
  if [ ${#packages[@]} -gt 0 ]; then install_packages "${packages[@]}"; fi
}

library_package() {
  case "$1" in
    libGL.so.*) echo libgl1 ;;
    libEGL.so.*) echo libegl1 ;;
    libOpenGL.so.*) echo libopengl0 ;;
    libxkbcommon.so.*) echo libxkbcommon0 ;;
    libxkbcommon-x11.so.*) echo libxkbcommon-x11-0 ;;
    libdbus-1.so.*) echo libdbus-1-3 ;;
    libfontconfig.so.*) echo libfontconfig1 ;;
    libfreetype.so.*) echo libfreetype6 ;;
    libglib-2.0.so.* | libgthread-2.0.so.*) echo libglib2.0-0 ;;
    libX11.so.*) echo libx11-6 ;;
    libX11-xcb.so.*) echo libx11-xcb1 ;;
    libxcb.so.*) echo libxcb1 ;;
    libxcb-util.so.*) echo libxcb-util1 ;;
    libxcb-*.so.*) echo "$1" | sed -E 's/\.so\.([0-9]+).*/\1/' ;;
    libSM.so.*) echo libsm6 ;;
    libICE.so.*) echo libice6 ;;
    libwayland-client.so.*) echo libwayland-client0 ;;
  esac
}
