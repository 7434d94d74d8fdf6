#!/usr/bin/env bash
# Chromium on one core, for what is compared with two.
exec taskset -c 0 "${CHROMIUM:-/usr/bin/chromium}" "$@"
