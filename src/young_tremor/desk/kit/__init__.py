"""Widgets and manners that know nothing of the document.

For the other rooms: ``theme`` (colours, sizes, fonts), ``number_field``, ``segments``, ``column`` (groups that
fold), ``sheet``, ``notice``, ``thread_bridge`` (from worker threads to the desk), ``accessible`` (role, name,
value), ``focus``.

Worth knowing
-------------
- Focus (``desk.kit.focus``) is one filter over the application: Space and Return press what has the focus, arrows
  belong to rules and lists, and a closed list or a rule without the focus leaves the wheel to what scrolls. What is
  finished (a field, a list, a sheet) gives the focus back to its home: the chart's ruler, or whatever its ``home``
  property names. What is hidden while it has the focus goes home too.
"""
