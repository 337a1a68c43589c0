# Sourced by ./start and ./check: finds Python, builds the virtual environments from the lock file, looks for the system libraries of Qt.
# Quick the second time: a stamp of the lists is kept inside each environment.

house=$PWD
unset PYTHONDONTWRITEBYTECODE # where Python keeps nothing of what it compiled, every start takes twice as long

say() { printf '%s\n' "$*" >&2; }

apt_install() { # quiet, no questions; only as root
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}

find_python() {
  for candidate in python3 python3.13 python3.12 python3.11; do
    if command -v "$candidate" >/dev/null && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))'; then
      PYTHON=$(command -v "$candidate")
      break
    fi
  done
  if [ -z "${PYTHON:-}" ] || ! "$PYTHON" -c 'import venv, ensurepip' 2>/dev/null; then
    if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
      say "Installing python3 and python3-venv."
      apt-get update -qq >/dev/null
      apt_install python3 python3-venv
      PYTHON=$(command -v python3)
    else
      say "Purvel needs Python 3.11 or newer with venv. Install it with:"
      say "  sudo apt-get install python3 python3-venv"
      exit 1
    fi
  fi
  "$PYTHON" -c 'import sys; sys.exit(sys.version_info < (3, 11))' || { say "Purvel needs Python 3.11 or newer; $PYTHON is older."; exit 1; }
}

is_made() { # is_made FOLDER LIST: whether it is there as the lists want it and its Python runs; sets `stamp`, which then lies in it
  local python
  stamp=$(cat requirements/lock.txt pyproject.toml tools/*packages.py | sha256sum | cut -c1-16)-$PWD
  python=$("$1/bin/python" -c 'import sys; print("%d.%d" % sys.version_info[:2])' 2>/dev/null) || return 1
  [ -d "$1/lib/python$python/site-packages" ] && [ "$(cat "$1/stamp-$2" 2>/dev/null)" = "$stamp" ]
}

make_venv() { # make_venv FOLDER LIST: a virtual environment with the packages that pyproject.toml lists for LIST, pinned, and Purvel itself
  local venv=$1 list=$2 stamp compile=--no-compile # tests compile what they use: that is a tenth of it
  [ "$list" = app ] && compile=--compile
  is_made "$venv" "$list" && return 0
  find_python
  say "Setting up $venv ($list): a minute or two the first time."
  [ -x "$venv/bin/python" ] && "$venv/bin/python" -c 'import pip' 2>/dev/null || { rm -rf "$venv"; "$PYTHON" -m venv "$venv"; }
  PIP_DISABLE_PIP_VERSION_CHECK=1 "$venv/bin/python" -m pip install -q $compile -r <("$venv/bin/python" tools/packages.py "$list") -c requirements/lock.txt 2> >(grep -v '^WARNING' >&2)
  PIP_DISABLE_PIP_VERSION_CHECK=1 "$venv/bin/python" -m pip install -q --no-deps --no-build-isolation -e . 2> >(grep -v '^WARNING' >&2)
  "$venv/bin/python" -m compileall -q src/purvel
  printf '%s' "$stamp" > "$venv/stamp-$list"
}

share_venv() { # share_venv FOLDER LIST OTHER: the same with packages that another environment has, which are linked
  local venv=$1 list=$2 other=$3 stamp
  is_made "$venv" "$list" && return 0
  find_python
  rm -rf "$venv"
  "$PYTHON" -m venv --without-pip "$venv"
  "$other/bin/python" tools/share_packages.py "$list" "$venv"
  printf '%s' "$stamp" > "$venv/stamp-$list"
}

# library file : Debian package. The first group is needed to draw at all, the second to open a real window.
QT_LIBRARIES="libGL.so.1:libgl1 libEGL.so.1:libegl1 libxkbcommon.so.0:libxkbcommon0 libfontconfig.so.1:libfontconfig1 libdbus-1.so.3:libdbus-1-3 libglib-2.0.so.0:libglib2.0-0 libfreetype.so.6:libfreetype6"
WINDOW_LIBRARIES="libxcb-cursor.so.0:libxcb-cursor0 libxcb-icccm.so.4:libxcb-icccm4 libxcb-image.so.0:libxcb-image0 libxcb-keysyms.so.1:libxcb-keysyms1 libxcb-randr.so.0:libxcb-randr0 libxcb-render-util.so.0:libxcb-render-util0 libxcb-shape.so.0:libxcb-shape0 libxcb-xkb.so.1:libxcb-xkb1 libxkbcommon-x11.so.0:libxkbcommon-x11-0"

qt_libraries() { # qt_libraries "LIST": makes sure the system libraries are there, or says the exact install line
  local missing
  missing=$("$house/.venv/bin/python" - $1 <<'END'
import ctypes, sys

def lacks(library):
    try:
        ctypes.CDLL(library)
    except OSError:
        return True
    return False

print(*(package for library, package in (pair.split(":") for pair in sys.argv[1:]) if lacks(library)))
END
  )
  [ -z "$missing" ] && return 0
  if [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; then
    say "Installing system libraries for Qt: $missing"
    apt-get update -qq >/dev/null
    apt_install $missing
  else
    say "Qt needs some system libraries. Install them with:"
    say "  sudo apt-get install $missing"
    return 1
  fi
}
