"""Pictures for the screen, the wanted one first."""
