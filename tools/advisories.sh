#!/usr/bin/env bash
# Holds every locked package against the advisories that its registry serves. Needs the network;
# what a registry says nothing of is named, not passed over.
set -uo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."

tools=$(mktemp -d)
trap 'rm -rf "$tools"' EXIT
python3 -m venv "$tools" && "$tools/bin/pip" install --quiet pip-audit || exit 1

found=0
for lock in requirements.lock requirements-step.lock requirements-check.lock; do
  echo "== $lock"
  "$tools/bin/pip-audit" --requirement "$lock" --require-hashes --disable-pip \
    --progress-spinner off || found=1
done
echo "== frontend"
npm --prefix frontend audit || found=1
exit $found
