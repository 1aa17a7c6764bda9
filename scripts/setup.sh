#!/usr/bin/env bash
# Makes sure that what the project needs is on this machine: Go, Node, and the
# Debian packages named as arguments. Installs packages as root or with sudo,
# otherwise says exactly what to install.
set -euo pipefail

say() { printf '%s\n' "$*" >&2; }

for tool in go node npm; do
	command -v "$tool" >/dev/null || { say "$tool is missing. Handwerk needs Go 1.26 or newer and Node 20.19 or newer; see README.md."; exit 1; }
done

present() {
	case "$1" in
	postgresql) compgen -G '/usr/lib/postgresql/*/bin/postgres' >/dev/null ;;
	chromium-headless-shell) [ -x /usr/bin/chromium-headless-shell ] ;;
	poppler-utils) command -v pdftotext >/dev/null ;;
	*) dpkg -s "$1" >/dev/null 2>&1 ;;
	esac
}

missing=()
for package in "$@"; do
	present "$package" || missing+=("$package")
done
[ ${#missing[@]} -eq 0 ] && exit 0

run=()
if [ "$(id -u)" -ne 0 ]; then
	if sudo -n true 2>/dev/null; then
		run=(sudo)
	else
		say "Missing Debian packages, and no right to install them. Run:"
		say "  sudo apt-get install --no-install-recommends ${missing[*]}"
		exit 1
	fi
fi
say "Installing: ${missing[*]}"
export DEBIAN_FRONTEND=noninteractive
"${run[@]}" apt-get update -qq
"${run[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
