"""A list of all presets to choose one from, a person's own among them as soon as they are kept."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QComboBox, QWidget

from young_tremor.desk.kit.i18n import tr
from young_tremor.engine.library import preset_library
from young_tremor.model.project import Preset


class PresetBox(QComboBox):
    """``none``: what stands first for no preset, if that can be chosen. ``order``: sorts the presets."""

    def __init__(
        self,
        name: str,
        *,
        none: str = "",
        order: Callable[[Preset], object] = lambda preset: 0,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setAccessibleName(tr(name))
        self._none, self._order = none, order
        self._names: list[str] = []
        self._refresh()

    def show_preset(self, name: str) -> None:
        """Show a preset as the chosen one; nothing where there is none of that name."""
        if name and self.findData(name) < 0:
            self._refresh()
        self.setCurrentIndex(self.findData(name))

    def _refresh(self) -> None:
        """List the presets that there are now."""
        presets = sorted(preset_library.presets(), key=self._order)  # type: ignore[arg-type]
        names = [preset.name for preset in presets]
        if names == self._names:
            return
        chosen, self._names = self.currentData(), names
        self.clear()
        if self._none:
            self.addItem(tr(self._none), "")
        for name in names:
            self.addItem(tr(name), name)
        self.setCurrentIndex(self.findData(chosen) if chosen is not None else 0 if self._none else -1)

    def showPopup(self) -> None:
        self._refresh()
        super().showPopup()

    def focusInEvent(self, event: QFocusEvent) -> None:
        self._refresh()
        super().focusInEvent(event)
