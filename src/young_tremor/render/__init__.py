"""The one renderer: ``plan`` resolves a shot, ``frame`` renders it.

Worth knowing
-------------
- The crop is the need of few frames: the ends of every exposure and what lies between are looked at first, at times
  that do not depend on how far anything moves and so are known through a drag; then, closely, only frames that may be
  the farthest, or of which it is not yet certain whether they are covered without a crop. The result is the same.
- A frame's picture is a weighted sum of views (``exposure_views.ExposureViews``): cuts of the exposure, the shifts of
  a smear, afterimages. The crop is solved over the exposure from end to end (``shutter.covered_moments``).
- Several plates are composited view by view in windows, where something lies over the lowest one; the rest goes the
  direct way and is passed on bit for bit where nothing moves (``docs/composite.md``).
- Depth alone is worked out for many moments at once (``displacement.deep_look``): nearest and farthest are a matrix
  each, so the corners stand for the outline in the solver.
- Blur is the mean of views about a pixel apart; long ways are drawn out in parts (``docs/kernels.md``).
- Rolling shutter: S is sampled at heights of the picture, each at its own time; rows lie between them. The ends of
  the rows stand for the outline in the cover solver.
- Bent pictures (shimmer, regions) go through maps made at every fourth pixel; the solver asks many places along the
  outline. The resampler takes no row of more than 32,767 places.
- Coverage is worked out where something is open only, in blocks; colours go on beyond the edge behind it, so that no
  kernel rings there. The places themselves are kept inside the source's outermost pixel centres.
"""
