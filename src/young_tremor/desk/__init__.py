"""The Qt desk. Nothing outside this package knows Qt."""
