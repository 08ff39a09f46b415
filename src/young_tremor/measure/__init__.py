"""Motion out of pictures: tracked from frame to frame, accumulated to a path, learned as a spectrum.

Worth knowing
-------------
- Measuring compares every frame with a key picture, not with the one before, so that errors do not add up; when the
  view has moved on, an earlier key picture that shows again is taken before a new one is made. Patches are followed
  on a quarter-size picture and then aligned all at once on a half-size one, each without its own mean and contrast.
  Linear interpolation is exact only for smooth pictures, so they are smoothed first; OpenCV's cubic is not straight
  on a straight slope and would pull.
- Two things that move are followed as layers through the whole clip: a patch of a key picture is trusted to a layer
  as often as it has agreed with it where the two ways differ. When a second way is noticed, the frames before are
  measured again backwards, because near their start both went together. The scene is the layer that reaches round the
  rim and over most of the frame, all frames together, so it never changes from one to another; the other is kept and
  can be chosen.
- The error of a path is a standard error in pixels, RMS over the picture: what still pulls on the patches of each of
  24 parts, up to twice for what compression does to all of them at once (by calibration, ``docs/proof.md``). Confidence
  is 1 / (1 + error²). Frames over a pixel and over four times the usual error are bridged.
- A path is of what the frames show: the mean over the exposure. Deconvolving the shutter out of it was tried; how
  long it was open cannot be told well enough from how much frames are drawn out (0.03 to 0.35 for a true 0.23).
- Late rows skew a moving picture: six numbers are aligned, and the two that a similarity lacks are regressed on the
  speed over the whole clip. Only when that stands out by five standard errors is it taken off the path.
- A layer that is lost is looked for where it was, then from the newest key pictures wherever in the picture it may be
  (phase correlation), by patches that have agreed before: what passes in front may cover everything. What enters a
  picture that another layer filled is never the scene. A cut is abrupt against the few frames before it.
- A gyroscope's log and a path are laid beside each other by how fast both turn; what the picture shows beyond the log
  goes slowly (a camera is carried no faster than it is turned), so frames that cannot be seen are known from the log.
"""
