"""Footage as the application uses it: facts, open readers, proxies, relinking, thumbnails.

Worth knowing
-------------
- Heavy footage (more than 2600 × 1400 pixels) gets a reduced copy in the cache while the person rests; the preview
  reads it where the window shows fewer pixels than the copy has. Nothing that is delivered knows of it.
"""
