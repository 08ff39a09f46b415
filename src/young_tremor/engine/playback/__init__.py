"""Playing in time, by the clock of the sound."""
