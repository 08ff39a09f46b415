"""Fonts, icons, presets and demo footage shipped with the application."""

from pathlib import Path

ASSETS = Path(__file__).parent
