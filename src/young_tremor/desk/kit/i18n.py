"""The interface's words in the language of whoever looks, by Qt's own mechanism."""

from __future__ import annotations

from PySide6.QtCore import QCoreApplication, QLocale, QTranslator

from young_tremor.engine.library import preset_library

CONTEXT = "Young Tremor"
COUNTED = {
    one: (f"1 {one}", f"{{0}} {one}s")
    for one in ("file", "frame", "hit", "key", "preset", "shot", "sound", "step", "strand", "take")
}
FOLDER = preset_library.ASSETS / "translations"


def tr(text: str, *values: object) -> str:
    """A sentence in the language that is set; ``values`` take the places of ``{0}``, ``{1}`` … in it."""
    said = QCoreApplication.translate(CONTEXT, text)
    return said.format(*values) if values else said


def counted(number: int, one: str) -> str:
    """So many of something: one of :data:`COUNTED`."""
    return tr(COUNTED[one][0]) if number == 1 else tr(COUNTED[one][1], number)


def set_language(app: QCoreApplication) -> None:
    """Speak the language of the desktop where there is a file for it (``docs/translating.md``), else English."""
    translator = QTranslator(app)
    if translator.load(QLocale(), "young-tremor", "_", str(FOLDER)):
        app.installTranslator(translator)
