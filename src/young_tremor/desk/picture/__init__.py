"""The picture, and what is on it.

For the other rooms: ``stage`` (which pictures are asked for, and playing them), ``view`` (the widget), ``transport``,
``clip_view`` (a clip that is measured), ``frame_marks`` (names of what is drawn over it), ``image``.
"""
