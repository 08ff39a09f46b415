"""What the desk looks at, and what it has under way.

For the other rooms: ``desk_state`` (what is chosen, with one signal for its changes), ``time_view`` (playhead,
marks, zoom of the chart), ``task_runner`` (background tasks whose late answers are dropped), ``gestures`` (a drag is
one step).

Worth knowing
-------------
- Choice (``desk.state.desk_state``): ``Selection.target`` is the kind of thing that was clicked last. Delete, Return
  and the arrows mean it, it alone carries the amber mark, and ``DeskState.release`` lets go of it, inmost first.
- What is chosen never carries over to another shot: ``DeskState.choose`` begins a fresh ``Selection`` when the shot
  differs, and what the document has no longer (an undone strand, a removed shot) is let go before any view hears of
  the change.
"""
