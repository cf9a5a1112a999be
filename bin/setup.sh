# Sourced by bin/demo, bin/test and bin/bench: everything a fresh Debian-like machine needs.
#
#   setup run    what the program needs to run
#   setup test   and what its tests need besides
#
# The second time, a stamp that names this file's and the lock's contents ends it at once.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
venv="$root/.venv"
python="$venv/bin/python"

run_libraries="libegl1 libgl1 libdbus-1-3 libfontconfig1 libglib2.0-0 libxkbcommon-x11-0
  libxcb-cursor0 libxcb-icccm4 libxcb-image0 libxcb-keysyms1 libxcb-randr0
  libxcb-render-util0 libxcb-shape0 libxcb-xinerama0 libxcb-xkb1 xvfb xauth"
test_libraries="chromium chromium-driver dbus-daemon git"

say() { echo "outgrowth: $*" >&2; }

missing_packages() {
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || echo "$package"
  done
}

install_libraries() {
  command -v dpkg-query >/dev/null || { say "not a Debian-like system; these are needed: $*"; return; }
  local wanted
  wanted=$(missing_packages "$@")
  [ -n "$wanted" ] || return 0
  local as_root=""
  if [ "$(id -u)" != 0 ]; then
    if command -v sudo >/dev/null && sudo -n true 2>/dev/null; then as_root="sudo"; else
      say "please install: apt-get install" $wanted
      return 0
    fi
  fi
  say "installing system packages:" $wanted
  $as_root env DEBIAN_FRONTEND=noninteractive apt-get -qq update >&2
  $as_root env DEBIAN_FRONTEND=noninteractive \
    apt-get -qq install -y --no-install-recommends $wanted >&2
}

# OUTGROWTH_PYTHON names another Python than the newest that is there.
find_python() {
  for candidate in ${OUTGROWTH_PYTHON:-} python3.13 python3.12 python3.11 python3; do
    if command -v "$candidate" >/dev/null && "$candidate" -c \
      'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      echo "$candidate"
      return
    fi
  done
}

make_venv() {
  local base
  base=$(find_python)
  if [ -z "$base" ]; then
    install_libraries python3 python3-venv
    base=$(find_python)
  fi
  [ -n "$base" ] || { say "Python 3.11 or newer with venv is needed"; exit 1; }
  [ -x "$python" ] || "$base" -m venv "$venv"
}

# The outside judges of the exported code. Node.js may stand here without Debian's package.
install_web_tools() {
  command -v npm >/dev/null || install_libraries nodejs npm
  command -v npm >/dev/null || { say "no npm here: the judges of the exported code are left out"; return; }
  say "installing the judges of the exported code"
  (cd "$root/tools/web" && npm ci --ignore-scripts --silent >&2)
}

setup() {
  local what=$1
  local stamp="$root/.setup/$what"
  local now
  now=$(cat "$root/bin/setup.sh" "$root"/requirements*.lock "$root/pyproject.toml" \
    "$root/tools/web/package-lock.json" | sha256sum)
  if [ -x "$python" ] && [ "$(cat "$stamp" 2>/dev/null)" = "$now" ]; then return 0; fi
  if [ "$what" = test ]; then
    install_libraries $run_libraries $test_libraries
  else
    install_libraries $run_libraries
  fi
  make_venv
  say "installing pinned Python packages"
  "$python" -m pip install -q --disable-pip-version-check -r "$root/requirements.lock" >&2
  if [ "$what" = test ]; then
    "$python" -m pip install -q --disable-pip-version-check -r "$root/requirements-test.lock" >&2
  fi
  "$python" -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation \
    -e "$root" >&2
  # The first start does not wait for it, also where Python is told to write no bytecode.
  "$python" -m compileall -q "$root/outgrowth" >&2
  if [ "$what" = test ]; then install_web_tools; fi
  mkdir -p "$root/.setup"
  echo "$now" > "$stamp"
}

# with_display COMMAND …: on the display that is there, else on a virtual one.
with_display() {
  if [ -n "${DISPLAY:-}${WAYLAND_DISPLAY:-}${QT_QPA_PLATFORM:-}" ]; then
    "$@"
  else
    say "no display here; using a virtual one of 1440×900"
    xvfb-run -a -s "-screen 0 1440x900x24" "$@"
  fi
}
