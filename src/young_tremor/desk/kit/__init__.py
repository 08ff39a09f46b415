"""Widgets and manners that know nothing of the document.

For the other rooms: ``theme`` (colours, sizes, fonts), ``rule`` and ``scale``, ``segments``, ``column`` (groups that
fold), ``sheet``, ``notice``, ``bridge`` (from worker threads to the desk), ``accessible`` (role, name, value),
``focus``.
"""
