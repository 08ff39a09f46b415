"""Fonts, icons, presets and demo footage shipped with the application."""
