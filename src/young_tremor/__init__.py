"""Young Tremor: handheld and impact shake for locked-off footage."""

__version__ = "0.3.0"
