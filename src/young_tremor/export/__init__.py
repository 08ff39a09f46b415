"""Plans to files: films, numbered pictures, motion tables."""
