"""Ground floor: errors, signals, units and picture frames. Imports nothing of ours.

Worth knowing
-------------
- Foreign files (``base.sandbox``): ``sandbox.run`` calls a function of one of our modules in a child of a warm
  server, under ``Limits``; a module's ``warm_up`` is called in the server once.
- Parts (``base.files.Part``) belong to the call that makes them. What a crash left is swept by whoever next writes
  there, only where the note, the device, the inode and the owner agree and nobody holds it.
"""
