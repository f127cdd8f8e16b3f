# Shared by script/start and script/test: what the machine and the project need, installed when it is missing.
project=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
export DEBIAN_FRONTEND=noninteractive PIP_DISABLE_PIP_VERSION_CHECK=1 UV_LINK_MODE=copy UV_SYSTEM_CERTS=1 PYTHONDONTWRITEBYTECODE=
# matrices are small here: more threads for one only wait for each other
export OPENBLAS_NUM_THREADS=1

fail() {
  printf '%s\n' "$*" >&2
  exit 1
}

as_root() {
  if [ "$(id -u)" -eq 0 ]; then
    "$@"
  elif command -v sudo >/dev/null 2>&1; then
    sudo "$@"
  else
    fail "Installing needs root rights: run as root once, or install these Debian packages yourself: ${missing[*]}"
  fi
}

has_postgresql() {
  compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null
}

has_venv() {
  python3 -c 'import ensurepip, venv' >/dev/null 2>&1
}

# want_packages browser|plain : installs Debian packages that are missing, in one call
want_packages() {
  missing=()
  command -v python3 >/dev/null 2>&1 || missing+=(python3)
  has_venv || missing+=(python3-venv)
  has_postgresql || missing+=(postgresql-15)
  command -v setpriv >/dev/null 2>&1 || missing+=(util-linux)
  [ -e /etc/ssl/certs/ca-certificates.crt ] || missing+=(ca-certificates)
  # what draws the letters of a PDF
  local name
  for name in libpango-1.0-0:libpango-1.0.so.0 libpangoft2-1.0-0:libpangoft2-1.0.so.0 \
    libharfbuzz-subset0:libharfbuzz-subset.so.0; do
    compgen -G "/usr/lib/*/${name#*:}" >/dev/null || missing+=("${name%%:*}")
  done
  [ -e /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf ] || missing+=(fonts-dejavu-core)
  if [ "$1" = browser ]; then
    command -v chromium >/dev/null 2>&1 || missing+=(chromium)
    compgen -G '/usr/lib/*/libatomic.so.1' >/dev/null || missing+=(libatomic1) # the browser driver needs it
    command -v pdftotext >/dev/null 2>&1 || missing+=(poppler-utils) # the tests read PDF files
  fi
  [ ${#missing[@]} -eq 0 ] && return 0
  command -v apt-get >/dev/null 2>&1 || fail "These are missing and there is no apt-get to install them: ${missing[*]}"
  printf 'Installing %s\n' "${missing[*]}"
  as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq || fail "The list of Debian packages could not be read."
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null ||
    fail "These Debian packages could not be installed: ${missing[*]}"
}

# want_python LOCKFILE : a project environment that matches the lock file
want_python() {
  local lock=$1 stamp wanted
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or later is needed."
  stamp="$project/.venv/.stamp-$(basename "$lock")"
  wanted=$( (python3 -V; cat "$project/$lock" "$project/pyproject.toml"; printf '%s' "$project") | sha256sum)
  if [ -e "$stamp" ] && [ "$(cat "$stamp")" = "$wanted" ]; then
    return 0
  fi
  printf 'Preparing Python packages\n'
  if [ ! -x "$project/.venv/bin/python" ] || ! "$project/.venv/bin/python" -c '' >/dev/null 2>&1; then
    rm -rf "$project/.venv"
    python3 -m venv "$project/.venv" || fail "The Python environment could not be made in $project/.venv"
  fi
  # uv is quicker; pip does where uv is not to be had or cannot use this machine's certificates
  if ! { "$project/.venv/bin/pip" install -q uv && VIRTUAL_ENV="$project/.venv" "$project/.venv/bin/uv" pip install \
    -q --compile-bytecode --require-hashes --no-deps -r "$project/$lock"; } >/dev/null 2>&1; then
    "$project/.venv/bin/pip" install -q --require-hashes --no-deps -r "$project/$lock" ||
      fail "The Python packages could not be installed."
  fi
  "$project/.venv/bin/pip" install -q --no-deps --no-build-isolation -e "$project" >/dev/null ||
    fail "The program could not be set up in its environment."
  printf '%s' "$wanted" >"$stamp"
}
