"""Say which system libraries are missing and which Debian packages hold them.

Uses nothing but the standard library and ``ldd``, so that it can speak before Qt is loaded.
"""

import importlib.util
import os
import subprocess
import sys
from pathlib import Path

PACKAGES = {
    "libEGL.so.1": "libegl1",
    "libGL.so.1": "libgl1",
    "libGLX.so.0": "libglx0",
    "libOpenGL.so.0": "libopengl0",
    "libxkbcommon.so.0": "libxkbcommon0",
    "libxkbcommon-x11.so.0": "libxkbcommon-x11-0",
    "libdbus-1.so.3": "libdbus-1-3",
    "libfontconfig.so.1": "libfontconfig1",
    "libfreetype.so.6": "libfreetype6",
    "libglib-2.0.so.0": "libglib2.0-0",
    "libgthread-2.0.so.0": "libglib2.0-0",
    "libX11.so.6": "libx11-6",
    "libX11-xcb.so.1": "libx11-xcb1",
    "libxcb.so.1": "libxcb1",
    "libxcb-cursor.so.0": "libxcb-cursor0",
    "libxcb-icccm.so.4": "libxcb-icccm4",
    "libxcb-image.so.0": "libxcb-image0",
    "libxcb-keysyms.so.1": "libxcb-keysyms1",
    "libxcb-randr.so.0": "libxcb-randr0",
    "libxcb-render.so.0": "libxcb-render0",
    "libxcb-render-util.so.0": "libxcb-render-util0",
    "libxcb-shape.so.0": "libxcb-shape0",
    "libxcb-shm.so.0": "libxcb-shm0",
    "libxcb-sync.so.1": "libxcb-sync1",
    "libxcb-util.so.1": "libxcb-util1",
    "libxcb-xfixes.so.0": "libxcb-xfixes0",
    "libxcb-xkb.so.1": "libxcb-xkb1",
    "libasound.so.2": "libasound2",
    "libz.so.1": "zlib1g",
    "libzstd.so.1": "libzstd1",
    "libwayland-client.so.0": "libwayland-client0",
    "libcups.so.2": "libcups2",
    "libjack.so.0": "libjack-jackd2-0",
    "libstdc++.so.6": "libstdc++6",
    "libgssapi_krb5.so.2": "libgssapi-krb5-2",
    "libSM.so.6": "libsm6",
    "libICE.so.6": "libice6",
}


def missing(libraries: list[Path]) -> set[str]:
    """The names of libraries that the loader does not find."""
    names = set()
    for library in libraries:
        told = subprocess.run(["ldd", library], capture_output=True, text=True, check=False)
        names |= {line.split()[0] for line in told.stdout.splitlines() if "not found" in line}
    return names


def wanted(window: bool) -> list[Path]:
    """The libraries that are loaded: those of Qt, the screens' plugins for a real window, MIDI's."""
    qt = _folder("PySide6")
    libraries = list(_folder("rtmidi").glob("*.so"))
    names = ("Core", "Gui", "Widgets", "Svg", "PrintSupport", "DBus")
    libraries += [qt / "Qt" / "lib" / f"libQt6{name}.so.6" for name in names]
    if window:
        plugins = qt / "Qt" / "plugins" / "platforms"
        libraries += [plugins / "libqxcb.so", qt / "Qt" / "lib" / "libQt6XcbQpa.so.6"]
    return [library for library in libraries if library.exists()]


def _folder(package: str) -> Path:
    spec = importlib.util.find_spec(package)
    if spec is None or spec.origin is None:
        return Path("/nowhere")
    return Path(spec.origin).parent


def is_on_screen() -> bool:
    """Whether the window will be shown by X, and not by another of Qt's platforms."""
    platform = os.environ.get("QT_QPA_PLATFORM", "").partition(":")[0]
    only_wayland = "WAYLAND_DISPLAY" in os.environ and "DISPLAY" not in os.environ
    return platform == "xcb" or not (platform or only_wayland)


def main() -> int:
    """0 when nothing is missing.  With the word “window”, what a real window needs counts too."""
    window = "window" in sys.argv[1:] and is_on_screen()
    lost = {name for name in missing(wanted(window)) if not name.startswith("libQt6")}
    if not lost:
        return 0
    packages = sorted({PACKAGES.get(name, f"the package that holds {name}") for name in lost})
    print(
        f"System libraries are missing ({', '.join(sorted(lost))}): install them with "
        f"“apt-get install {' '.join(packages)}”.",
        file=sys.stderr,
    )
    return 1


if __name__ == "__main__":
    sys.exit(main())
