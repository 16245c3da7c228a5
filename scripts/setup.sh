# Set-up shared by ./start, ./check and ./bench; to be sourced from the project's root.
# Makes .venv with pinned packages and, where it may, installs missing system libraries.
# Each step is skipped when its result is already there.

say() { printf '%s\n' "$*" >&2; }

# Runs apt-get as root, or through sudo if that asks no password; fails otherwise.
as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"
    elif command -v sudo >/dev/null && sudo -n true 2>/dev/null; then sudo -n "$@"
    else return 1; fi
}

apt_install() {
    say "Installing system packages: $*"
    if ! command -v apt-get >/dev/null; then
        say "This machine has no apt-get; please install the equivalents of: $*"
        return 1
    fi
    if ! { as_root apt-get update -qq >/dev/null \
            && as_root env DEBIAN_FRONTEND=noninteractive \
                apt-get install -y -qq --no-install-recommends "$@" >/dev/null; }; then
        say "They could not be installed from here; please run: sudo apt-get install $*"
        return 1
    fi
}

find_python() {
    for candidate in python3.11 python3 python3.12 python3.13; do
        if command -v "$candidate" >/dev/null \
            && "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
            printf '%s' "$candidate"
            return 0
        fi
    done
    say "Python 3.11 or newer is needed; please install it (Debian: python3)."
    return 1
}

# make_venv REQUIREMENTS STAMP: the packages of a requirements file, once for each change of it.
make_venv() {
    wanted=$({ pwd; cat requirements*.txt pyproject.toml; } | sha256sum | cut -d' ' -f1)
    for stamp in "$2" .stamp-dev; do  # what the checks need includes what the program needs
        if [ -x .venv/bin/python ] && [ "$(cat ".venv/$stamp" 2>/dev/null)" = "$wanted" ]; then
            return 0
        fi
    done
    if [ ! -x .venv/bin/python ] || ! .venv/bin/python -m pip --version >/dev/null 2>&1; then
        python=$(find_python) || return 1
        if ! "$python" -c 'import ensurepip' 2>/dev/null; then
            apt_install python3-venv || return 1
        fi
        say "Making .venv …"
        "$python" -m venv --clear .venv || return 1
    fi
    say "Installing packages from $1 (once; a few minutes) …"
    .venv/bin/python -m pip install -q --disable-pip-version-check -r "$1" || return 1
    .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps -e . || return 1
    # Compiled once here, since some machines never keep what Python compiles by itself.
    .venv/bin/python -m compileall -q src
    printf '%s' "$wanted" > ".venv/$2"
}

# The Debian package of a shared library that Qt looks for.
package_of() {
    case "$1" in
        libEGL.so.1) echo libegl1 ;;
        libGL.so.1) echo libgl1 ;;
        libGLX.so.0) echo libglx0 ;;
        libOpenGL.so.0) echo libopengl0 ;;
        libX11.so.6) echo libx11-6 ;;
        libX11-xcb.so.1) echo libx11-xcb1 ;;
        libdbus-1.so.3) echo libdbus-1-3 ;;
        libfontconfig.so.1) echo libfontconfig1 ;;
        libfreetype.so.6) echo libfreetype6 ;;
        libglib-2.0.so.0 | libgthread-2.0.so.0) echo libglib2.0-0 ;;
        libxkbcommon-x11.so.0) echo libxkbcommon-x11-0 ;;
        *.so.*) echo "$1" | sed -E 's/^(.*)\.so\.([0-9]+).*$/\1\2/' | tr 'A-Z_' 'a-z-' ;;
    esac
}

# System libraries that Qt needs for a window and for its offscreen platform.
qt_libraries() {
    qt=$(echo .venv/lib/python3*/site-packages/PySide6/Qt)
    if [ -f .venv/.stamp-qt ]; then return 0; fi
    missing=$(ldd "$qt"/plugins/platforms/libqxcb.so "$qt"/plugins/platforms/libqoffscreen.so \
        "$qt"/lib/libQt6Gui.so.6 "$qt"/lib/libQt6Widgets.so.6 2>/dev/null \
        | awk '/not found/ {print $1}' | sort -u)
    packages=$(for library in $missing; do package_of "$library"; done | sort -u | tr '\n' ' ')
    if [ -n "$packages" ]; then
        # shellcheck disable=SC2086
        apt_install $packages || return 1
    fi
    touch .venv/.stamp-qt
}
