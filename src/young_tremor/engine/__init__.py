"""The application without a window."""
