"""The document as frozen values, and the pure edits on it."""
