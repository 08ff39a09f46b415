"""Endings by which projects and timelines are known before they are read."""

PROJECT = ".tremor"
TIMELINES = (".otio", ".otioz", ".edl")
