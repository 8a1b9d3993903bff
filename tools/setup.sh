#!/usr/bin/env bash
# Make the environment in .venv: tools/setup.sh app|dev.  Quick when nothing is missing.
set -euo pipefail
cd "$(dirname "$0")/.."
kind=${1:-app}

system="libgl1 libegl1 libgl1-mesa-dri libglib2.0-0 libdbus-1-3 libfontconfig1 libxkbcommon-x11-0 libxcb-cursor0 \
libxcb-icccm4 libxcb-keysyms1 libxcb-randr0 libxcb-shape0 libxcb-xkb1"
[ "$kind" = dev ] && system="$system xvfb"

# The distribution's Python first: it is built with every optimisation, one compiled by hand often is not, and is then
# slower by a tenth to a quarter in everything.
suits() { command -v "$1" >/dev/null 2>&1 && "$1" -c "import sys; sys.exit(not (3, 11) <= sys.version_info[:2] <= (3, 14))"; }
makes_venv() { "$1" -c 'import venv, ensurepip' >/dev/null 2>&1; }
python=""
for candidate in /usr/bin/python3 /usr/bin/python3.{11,12,13,14} python3 python3.{11,12,13,14}; do
    suits "$candidate" 2>/dev/null || continue
    [ -n "$python" ] || python=$candidate
    if makes_venv "$candidate"; then
        python=$candidate
        break
    fi
done
missing=""
[ -n "$python" ] || missing="python3 python3-venv"
if [ -n "$python" ] && ! makes_venv "$python"; then
    missing="python3-venv"
fi
if command -v dpkg-query >/dev/null 2>&1; then
    for package in $system; do
        # From Debian 13 and Ubuntu 24.04 on, some libraries carry the suffix t64.
        # dpkg-query fails when it does not know one of the two names, and still prints the other.
        state=$(dpkg-query -W -f '${Status}\n' "$package" "${package}t64" 2>/dev/null || true)
        if ! grep -q 'install ok installed' <<<"$state"; then
            missing="$missing $package"
        fi
    done
fi
if [ -n "$missing" ]; then
    install="apt-get install -y --no-install-recommends $missing"
    if ! command -v apt-get >/dev/null 2>&1; then
        echo "Balken needs Python 3.11, 3.12, 3.13 or 3.14 and these libraries (Debian's names):$missing" >&2
        echo "Install them with your package manager, then run make again." >&2
        exit 1
    elif [ "$(id -u)" = 0 ]; then
        as=""
    elif command -v sudo >/dev/null 2>&1 && { sudo -n true 2>/dev/null || [ -t 0 ]; }; then
        as="sudo"
    else
        echo "System packages are missing. Run this as root, then run make again:" >&2
        echo "    apt-get update && $install" >&2
        exit 1
    fi
    echo "Installing system packages:$missing"
    $as apt-get update -qq
    # shellcheck disable=SC2086
    DEBIAN_FRONTEND=noninteractive $as $install -qq >/dev/null
    [ -n "$python" ] || python=python3
fi

stamp=.venv/.balken-$kind
base=$("$python" -c 'import sys; print(sys.base_prefix, sys.version_info[:2])')
want=$(cat requirements/app.txt "requirements/$kind.txt" pyproject.toml - <<<"$base" | sha256sum)
if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$want" ] && [ -x .venv/bin/balken ]; then
    exit 0
fi
# A .venv that was begun but not finished, moved here from elsewhere or made with another Python is made anew.
if ! .venv/bin/pip --version >/dev/null 2>&1 ||
    [ "$(.venv/bin/python -c 'import sys; print(sys.base_prefix, sys.version_info[:2])')" != "$base" ]; then
    rm -rf .venv
    "$python" -m venv .venv
fi
echo "Installing Python packages ($kind); the first time this takes a few minutes."
pip=".venv/bin/python -m pip --disable-pip-version-check -q"
$pip install -r "requirements/$kind.txt"
$pip install --no-build-isolation --no-deps -e . 2>/dev/null || $pip install --no-deps -e .
echo "$want" >"$stamp"
