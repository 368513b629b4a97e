# Sourced by the commands in this folder: checks Node and installs the packages of package-lock.json, once.
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cd "$root" || exit 1

say() { printf '%s\n' "$*" >&2; exit 1; }

command -v node >/dev/null 2>&1 || say "Node is missing: install Node 20 or newer, then start again."
node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 9) ? 0 : 1)' ||
  say "Node $(node --version) is too old: Patient Shelf needs 20.9 or newer."
command -v npm >/dev/null 2>&1 || say "npm is missing: it comes with Node."

lock=$(sha256sum package-lock.json | cut -d ' ' -f 1)
if [ "$(cat node_modules/.installed-lock 2>/dev/null)" != "$lock" ]; then
  printf 'Installing packages (a minute or two, only after a change) …\n' >&2
  log=$(mktemp)
  if ! npm ci --ignore-scripts --no-audit --no-fund >"$log" 2>&1; then
    if grep -qi 'ENOSPC\|no space left' "$log"; then why="the disk is full"; else why=$(grep -m 1 'npm error' "$log" | sed 's/^npm error *//'); fi
    rm -f "$log"
    say "The packages could not be installed: ${why:-npm ci failed}."
  fi
  rm -f "$log"
  printf '%s' "$lock" >node_modules/.installed-lock
fi
export NEXT_TELEMETRY_DISABLED=1
