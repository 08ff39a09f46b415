"""Plans to files: movies and motion tables."""
