"""The picture, and what is on it.

For the other rooms: ``viewer`` (which pictures are asked for, and playing them), ``picture_view`` (the widget),
``transport``, ``clip_view`` (a clip that is measured), ``frame_marks`` (names of what is drawn over it), ``image``."""
