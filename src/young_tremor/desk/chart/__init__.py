"""The chart under the picture.

For the other rooms: ``chart`` (the widget), ``subjects`` (every number that can be a curve), ``kinds`` (what is shown
of each kind of strand), ``heads`` (the scales of the rules on the rows).
"""
