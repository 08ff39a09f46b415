"""What is worked out of a shot: traces, figures, margins, found hits, where it lies in the reel.

Worth knowing
-------------
- A span is kept once, by the project; a shot that is looked at or delivered carries those over it (``Shot.over``,
  derived by ``engine.analysis.reel_layout``, never stored) with the second of the reel at which it begins.
  ``render.motion_layers`` samples them in the reel's time, so that nothing jumps at a cut.
- Found hits are proposals outside the document until they are kept.
"""
