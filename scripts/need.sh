#!/usr/bin/env bash
# Makes sure that Debian packages are there: need.sh PROGRAM-OR-GLOB PACKAGE …
# Installs what is missing as root or with sudo, and says what it does; where it
# may not, it says what to do instead.
set -euo pipefail

missing=()
while [ $# -ge 2 ]; do
  if ! compgen -G "$1" >/dev/null && ! command -v "$1" >/dev/null 2>&1; then missing+=("$2"); fi
  shift 2
done
[ "${#missing[@]}" -eq 0 ] && exit 0

command -v apt-get >/dev/null 2>&1 || {
  echo "Umberfrost needs ${missing[*]}, and this is not a Debian system. Install them in its own way and try again." >&2
  exit 1
}
as_root=()
if [ "$(id -u)" -ne 0 ]; then
  command -v sudo >/dev/null 2>&1 || {
    echo "Umberfrost needs the Debian packages ${missing[*]}. Ask somebody who may install them to run:" >&2
    echo "  apt-get install ${missing[*]}" >&2
    exit 1
  }
  as_root=(sudo)
fi

echo "Installing Debian's packages ${missing[*]}${as_root:+ with sudo}. No service of theirs will be started."
# Debian's PostgreSQL makes and starts a server of its own; we start a private one instead.
own=/etc/postgresql-common/createcluster.d/umberfrost.conf
"${as_root[@]}" mkdir -p "$(dirname "$own")"
echo 'create_main_cluster = false' | "${as_root[@]}" tee "$own" >/dev/null
trap '"${as_root[@]}" rm -f "$own"' EXIT
export DEBIAN_FRONTEND=noninteractive
"${as_root[@]}" apt-get update -qq
"${as_root[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
