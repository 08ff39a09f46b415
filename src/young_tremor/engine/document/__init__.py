"""The open document: session, undo, unsaved work, who has it open.

Worth knowing
-------------
- What goes is said: ``Session.stepped`` tells every step before and after, ``engine.document.removals`` puts what is
  gone into words. A command that removes something need not say so itself.
- Unsaved work (``engine.document.recovery``): a keeper writes a copy in a thread after so many seconds of change and
  removes it when the project is saved or let go. Its copy is beside a file that it holds locked (``base.lock_file``);
  copies whose lock nobody holds are offered on the empty desk. A copy that could not be written is said, and tried
  again.
- A document has a number (``Session.generation``): what was asked for one is dropped when it is answered in another.
"""
