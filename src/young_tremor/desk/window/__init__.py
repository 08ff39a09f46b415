"""Puts the desk together: ``hall`` the parts, the deeds, ``desk`` what commands know, ``listed`` all commands,
``window`` the wiring, ``app`` the start."""
