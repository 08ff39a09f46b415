"""The machine around the application: log, jobs, priorities, desktop entries and the session bus.

Worth knowing
-------------
- What the person waits for comes first (``engine.system.priority``): every wish touches one clock; quiet work of the
  runner gives way at each of its reports, for half a second at most and while a picture is owed; copies are made only
  while nothing else is.
"""
