"""Puts the desk together: ``desk`` the parts in their places, ``*_actions`` what can be done, ``actions`` all of that,
``commands`` the list of commands, ``window`` the wiring, ``app`` the start.

Worth knowing
-------------
- A command is one entry of ``desk.window.commands.COMMANDS``: name, menu, words, keys, what it does, when it is open.
  Menus, the finder, keys, and the manual's table of keys (``scripts/tables.py``) come out of it; what rows offer on a
  right click is in the menus too, filled by the same functions.
"""
