"""What a Linux desktop knows an application by: menu entry, icons, file type, manual page, completions."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path

from young_tremor.base import files
from young_tremor.base.errors import RequestError
from young_tremor.engine.library import preset_library
from young_tremor.media import svg_drawing

APP = "org.youngtremor.YoungTremor"
SIZES = (16, 22, 24, 32, 48, 64, 96, 128, 256, 512)
SMALL = 32  # pixels up to which the icon is drawn with fewer lines
COMPLETIONS = {
    "bash": "bash-completion/completions/young-tremor",
    "zsh": "zsh/site-functions/_young-tremor",
    "fish": "fish/vendor_completions.d/young-tremor.fish",
}
#: What brings a desktop's own lists up to date, and the folder of them.
UPDATES = (
    ("update-desktop-database", "applications"),
    ("update-mime-database", "mime"),
    ("gtk-update-icon-cache -q -t -f", "icons/hicolor"),
)
ICONS = preset_library.ASSETS / "icons"


def home() -> Path:
    """Where a person's own entries live."""
    text = os.environ.get("XDG_DATA_HOME", "")
    return Path(text) if os.path.isabs(text) else Path.home() / ".local/share"


def own_command() -> str:
    """What starts this very installation, as a menu entry says it."""
    started = Path(sys.argv[0])
    if started.name == "young-tremor" and started.is_file():
        return _quote(str(started.absolute()))
    return f"{_quote(sys.executable)} -m young_tremor"


def _quote(text: str) -> str:
    if any(ord(item) < 32 for item in text):
        raise RequestError(f"A menu entry cannot name {text!r}: install it in a folder with a plain name.")
    plain = text.replace("%", "%%")
    if not any(text in plain for text in " \t\"'\\><~|&;$*?#()`"):
        return plain
    inner = "".join("\\\\" + text if text in '"`$\\' else text for text in plain)
    return f'"{inner}"'


def icon(size: int) -> bytes:
    """The application's icon as a PNG of so many pixels."""
    return svg_drawing.png(ICONS / ("young-tremor-small.svg" if size <= SMALL else "young-tremor.svg"), size)


def _files_to_write(command: str, completions: dict[str, str]) -> Iterator[tuple[str, Callable[[], bytes]]]:
    """Every file below a share folder, and what makes it."""
    entry = preset_library.ASSETS / "desktop" / f"{APP}.desktop"
    text = entry.read_text(encoding="utf-8").replace("Exec=young-tremor", f"Exec={command}")
    yield f"applications/{APP}.desktop", text.encode
    yield f"metainfo/{APP}.metainfo.xml", (preset_library.ASSETS / "desktop" / f"{APP}.metainfo.xml").read_bytes
    yield "mime/packages/young-tremor.xml", (preset_library.ASSETS / "desktop" / "young-tremor.xml").read_bytes
    yield "icons/hicolor/scalable/apps/young-tremor.svg", (ICONS / "young-tremor.svg").read_bytes
    yield "icons/hicolor/scalable/mimetypes/application-x-young-tremor.svg", (ICONS / "project.svg").read_bytes
    for size in SIZES:
        at = f"icons/hicolor/{size}x{size}"
        yield f"{at}/apps/young-tremor.png", lambda size=size: icon(size)  # type: ignore[misc]
        yield (
            f"{at}/mimetypes/application-x-young-tremor.png",
            lambda size=size: svg_drawing.png(ICONS / "project.svg", size),  # type: ignore[misc]
        )
    yield "man/man1/young-tremor.1", (preset_library.ASSETS / "young-tremor.1").read_bytes
    for shell, place in COMPLETIONS.items():
        yield place, completions[shell].encode


def install(share: Path, *, command: str, completions: dict[str, str]) -> tuple[Path, ...]:
    """Write everything below a share folder; what was written. TremorError where it cannot be."""
    out = []
    for name, make in _files_to_write(command, completions):
        path = share / name
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise RequestError(f"{path.parent} cannot be made: choose another folder with --to.") from error
        files.write_whole(make(), path)
        out.append(path)
    return tuple(out)


def take_away(share: Path) -> tuple[Path, ...]:
    """Remove what ``put`` has written; what was there."""
    out = []
    for name, _ in _files_to_write("", dict.fromkeys(COMPLETIONS, "")):
        path = share / name
        if path.exists():
            try:
                path.unlink()
            except OSError as error:
                raise RequestError(f"{path} cannot be removed: see who may write there.") from error
            out.append(path)
    return tuple(out)


def refresh(share: Path) -> None:
    """Let the desktop read its lists anew, with the tools that are there."""
    for words, folder in UPDATES:
        tool, *options = words.split()
        if shutil.which(tool) and (share / folder).is_dir():
            with suppress(OSError, subprocess.TimeoutExpired):
                subprocess.run([tool, *options, str(share / folder)], capture_output=True, timeout=60, check=False)
