"""Gathers the licences of all that ships or is linked into one file: python scripts/licences.py.

Reads the texts that the installed packages of ``requirements/app.txt`` carry, and those of the faces; texts that no
package carries come from the system's ``/usr/share/common-licenses``.
"""

from __future__ import annotations

import importlib.metadata as metadata
import re
from pathlib import Path

from young_tremor.engine.library import preset_library

ROOT = Path(__file__).parents[1]
OUT = preset_library.ASSETS / "licences.txt"
COMMON = Path("/usr/share/common-licenses")
TEXT = re.compile(r"(licen[sc]e|copying|notice)[^/]*$", re.IGNORECASE)
#: What packages say in no form that can be read, or leave out.
KNOWN = {
    "OpenTimelineIO": "Apache-2.0",
    "PySide6-Essentials": "LGPL-3.0-only (Qt for Python, with Qt itself)",
    "av": "BSD-3-Clause; carries FFmpeg (LGPL-2.1-or-later) with x264 and x265 (GPL-2.0-or-later) and others",
    "miniaudio": "MIT",
    "opencolorio": "BSD-3-Clause",
    "opencv-python-headless": "Apache-2.0; third parties below",
    "otio-cmx3600-adapter": "Apache-2.0",
    "python-bidi": "LGPL-3.0-or-later",
    "resvg-py": "MIT",
    "scipy": "BSD-3-Clause; third parties below",
    "shiboken6": "LGPL-3.0-only",
    "uharfbuzz": "Apache-2.0",
}
LEAD = """\
LICENCES

Young Tremor itself is under the MIT licence. It runs on the libraries below, each under its own licence, and ships four
families of letters under the SIL Open Font License 1.1. The encoders x264 and x265, which PyAV carries, are under the
GPL: whoever passes on a package that holds them all, passes it on as a whole under the GPL, version 3.

"""
RULE = "=" * 100
COMMON_TEXTS = {"GPL-2": "x264, x265", "GPL-3": "python-bidi", "LGPL-2.1": "FFmpeg", "LGPL-3": "Qt for Python"}


def packages() -> list[metadata.Distribution]:
    """What ``requirements/app.txt`` pins and ``usd`` adds, as installed here; setuptools only serves installing."""
    lines = (ROOT / "requirements/app.txt").read_text(encoding="utf-8").splitlines()
    names = [line.partition("==")[0] for line in lines if "==" in line]
    return [metadata.distribution(name) for name in [*names, "usd-core"] if name != "setuptools"]


def texts() -> dict[str, list[str]]:
    """Every text once, with the names of those who carry it."""
    out: dict[str, list[str]] = {(ROOT / "LICENSE").read_text(encoding="utf-8").strip(): ["Young Tremor"]}
    for each in packages():
        for file in each.files or ():
            inside = str(file).partition(".dist-info/")[2]
            if inside and "_vendor" not in inside and TEXT.search(inside):
                text = Path(str(file.locate())).read_text(encoding="utf-8", errors="replace").strip()
                out.setdefault(text, []).append(f"{each.name} ({inside.removeprefix('licenses/')})")
    for path in sorted(preset_library.ASSETS.glob("*/OFL-*.txt")):
        out[path.read_text(encoding="utf-8").strip()] = [path.stem.removeprefix("OFL-")]
    for name, users in COMMON_TEXTS.items():
        out.setdefault((COMMON / name).read_text(encoding="utf-8").strip(), []).append(f"{users} ({name})")
    return out


def whole() -> str:
    """The file: what is under what, then every text."""
    lines = []
    for each in packages():
        meta = each.metadata
        said = KNOWN.get(each.name.replace("_", "-")) or meta.get("License-Expression") or meta.get("License") or ""
        if not said or "\n" in said:
            raise SystemExit(f"{each.name} does not say its licence: add it to KNOWN.")
        lines.append(f"{each.name} {each.version}: {said}")
    lines.append("Barlow Semi Condensed, Spline Sans Mono, Anton, IM Fell DW Pica: OFL-1.1")
    lines.append("Drawings, sounds, demo footage: MIT")
    parts = [f"{RULE}\n{', '.join(names)}\n\n{text}\n" for text, names in texts().items()]
    return LEAD + "\n".join(lines) + "\n\n" + "\n".join(parts)


if __name__ == "__main__":
    OUT.write_text(whole(), encoding="utf-8")
