"""Matrices and the crop that covers them. Frame units, y down; see ``camera``.

Worth knowing
-------------
- Cover. A projective map takes the delivered rectangle to a convex quadrilateral, so its four corners speak for all
  pixels; luma and chroma planes are both asked, and the source is inset by what the kernel reads beyond a place.
- A crop as needed is the largest need within half of its breathing time on either side, averaged over the same reach:
  each value that is averaged holds the frame's own need, so it cannot fall under it.
"""
