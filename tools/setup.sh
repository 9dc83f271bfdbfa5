# Shared by ./start and ./check: installs what is missing, and says so. Sourced, not run.
#
# Each step leaves a stamp in var/ with a hash of what it was made from, so that a
# second run finds nothing to do.

set -euo pipefail
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
cd "$ROOT"
mkdir -p var

say() { printf '%s\n' "$*"; }

fail() {
  printf '%s\n' "$*" >&2
  exit 1
}

as_root() {
  if [ "$(id -u)" -eq 0 ]; then
    "$@"
  elif command -v sudo >/dev/null; then
    sudo "$@"
  else
    fail "Debian packages are missing, and there is neither root nor sudo to install: $*"
  fi
}

# One setup at a time: a second one waits, then finds everything done.
setup_lock() {
  exec 9>>var/setup.lock
  flock -n 9 || { say "Another start is setting things up; waiting for it"; flock 9; }
}

setup_unlock() { exec 9>&-; }

# stamp NAME FILES...: whether the step NAME was last done with just these files.
hash_of() { cat "$@" | sha256sum | cut -d' ' -f1; }
is_done() { [ "$(cat "var/$1.stamp" 2>/dev/null)" = "$(hash_of "${@:2}")" ]; }
mark_done() { hash_of "${@:2}" >"var/$1.stamp"; }

debian_packages() {
  local missing=()
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || missing+=("$package")
  done
  [ "${#missing[@]}" -eq 0 ] && return
  say "      Installing Debian packages: ${missing[*]}"
  as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq >var/apt.log 2>&1 ||
    say "      The package lists could not be refreshed; going on with those that are here"
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" \
    >>var/apt.log 2>&1 || fail "The Debian packages could not be installed; see var/apt.log"
}

python_packages() {
  local python
  python="$(command -v python3.11 || command -v python3)" || fail "Python 3.11 is needed"
  "$python" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed"
  "$python" -c 'import ensurepip, venv' 2>/dev/null || debian_packages python3-venv
  [ -x .venv/bin/python ] || { say "      Making the virtual environment"; "$python" -m venv .venv; }
  local name="$1"
  shift
  if ! is_done "$name" "$@" pyproject.toml; then
    say "      Installing Python packages (a minute or two the first time)"
    for list in "$@"; do
      .venv/bin/python -m pip install --quiet --disable-pip-version-check --require-hashes -r "$list" \
        >>var/pip.log 2>&1 || fail "The Python packages could not be installed; see var/pip.log"
    done
    .venv/bin/python -m pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e . \
      >>var/pip.log 2>&1 || fail "Ulvent itself could not be installed; see var/pip.log"
    mark_done "$name" "$@" pyproject.toml
  fi
}

# Vite needs Node 20.19 or newer; where the system's is older, one comes from PyPI.
node_on_path() {
  if command -v node >/dev/null && node -e '
      const [a, b] = process.versions.node.split(".").map(Number);
      process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' && command -v npm >/dev/null; then
    return
  fi
  if [ ! -x .venv/bin/npm ]; then
    say "      Installing Node for building the front end"
    .venv/bin/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-node.lock \
      >>var/pip.log 2>&1 || fail "Node could not be installed; see var/pip.log"
  fi
  export PATH="$ROOT/.venv/bin:$PATH"
}

front_end_packages() {
  if ! is_done npm frontend/package-lock.json || [ ! -d frontend/node_modules ]; then
    node_on_path
    say "      Installing the front end's packages"
    (cd frontend && npm ci --no-audit --no-fund >../var/npm.log 2>&1) ||
      fail "The front end's packages could not be installed; see var/npm.log"
    mark_done npm frontend/package-lock.json
  fi
}

front_end_sources() {
  find frontend/src frontend/public frontend/index.html frontend/vite.config.ts frontend/help.css \
    docs/jobs docs/screenshots -type f | sort
}

front_end_build() {
  local sources
  mapfile -t sources < <(front_end_sources)
  if ! is_done build "${sources[@]}" frontend/package-lock.json || [ ! -f ulvent/web/page/index.html ]; then
    front_end_packages
    node_on_path
    say "      Building the front end"
    (cd frontend && npm run --silent build >../var/build.log 2>&1) ||
      fail "The front end could not be built; see var/build.log"
    mark_done build "${sources[@]}" frontend/package-lock.json
  fi
}
