"""What the desk looks at, and what it has under way.

For the other rooms: ``state`` (what is chosen, with one signal for its changes), ``time`` (playhead, marks, zoom of the
chart), ``runner`` (work in the background whose late answers are dropped), ``gestures`` (a drag is one step).
"""
