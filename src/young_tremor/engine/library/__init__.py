"""What lasts across projects: presets, takes, settings."""
