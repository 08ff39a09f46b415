"""The interface's words in the language of whoever looks, by Qt's own mechanism."""

from __future__ import annotations

from PySide6.QtCore import QCoreApplication, QLibraryInfo, QLocale, QObject, QTranslator

from young_tremor.engine.library import translations

CONTEXT = "Young Tremor"
COUNTED = {
    one: (f"1 {one}", f"{{0}} {one}s")
    for one in ("file", "frame", "hit", "key", "preset", "shot", "sound", "step", "strand", "take")
}


def tr(text: str, *values: object) -> str:
    """A sentence in the language that is set; ``values`` take the places of ``{0}``, ``{1}`` … in it."""
    said = QCoreApplication.translate(CONTEXT, text)
    return said.format(*values) if values else said


def tr_within(label: str) -> str:
    """A label as it stands within a sentence: an English one begins small."""
    text = tr(label)
    return text.lower() if text == label and translations.chosen() == translations.OWN else text


def tr_note(note: str) -> str:
    """A note whose first sentence is in the language that is set: sources and figures stay as they are."""
    first = translations.first_sentence(note)
    return tr(first) + note[len(first) :]


def counted(number: int, one: str) -> str:
    """So many of something: one of :data:`COUNTED`."""
    return tr(COUNTED[one][0]) if number == 1 else tr(COUNTED[one][1], number)


class Sentences(QTranslator):
    """The sentences of a language, read from the file that translators fill in."""

    def __init__(self, parent: QObject, language: str) -> None:
        super().__init__(parent)
        self._sentences = translations.sentences(language)

    def translate(self, context: str, source: str, disambiguation: str | None = None, n: int = -1) -> str | None:
        """What a sentence is in the language; None where another translator, or English, has to say it."""
        return self._sentences.get(source) if context == CONTEXT else None

    def isEmpty(self) -> bool:
        """Whether it has no sentence at all."""
        return not self._sentences


def set_language(app: QCoreApplication) -> None:
    """Speak the language that is chosen, with Qt's own words for its dialogs, menus and keys."""
    language = translations.chosen()
    if language == translations.OWN:
        return
    QLocale.setDefault(QLocale(language))
    of_qt = QTranslator(app)
    if of_qt.load(f"qtbase_{language}", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)):
        app.installTranslator(of_qt)
    app.installTranslator(Sentences(app, language))
