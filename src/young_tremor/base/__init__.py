"""Ground floor: errors, signals, units and picture frames. Imports nothing of ours."""
