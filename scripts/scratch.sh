#!/usr/bin/env bash
# Prints a new folder for what tests throw away: in memory where there is plenty, for a database copies itself there
# ten times as fast as on a disk.
set -euo pipefail
free=$(awk '/MemAvailable/ {print $2}' /proc/meminfo 2>/dev/null || echo 0)
room=$(df --output=avail /dev/shm 2>/dev/null | tail -1 || echo 0)
folder=
if ((free > 10000000 && room > 6000000)) && [ -w /dev/shm ]; then
	folder=$(mktemp -d /dev/shm/umberfrost-XXXXXX)
	printf '#!/bin/sh\n' >"$folder/runs" && chmod +x "$folder/runs"
	if "$folder/runs" 2>/dev/null; then # programs are built and run there
		rm "$folder/runs"
	else
		rm -rf "$folder" && folder=
	fi
fi
[ -n "$folder" ] || folder=$(mktemp -d)
chmod 0711 "$folder" # the database server may run as another user
echo "$folder"
