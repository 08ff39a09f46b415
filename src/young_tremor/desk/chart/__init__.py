"""The chart under the picture.

For the other rooms: ``chart`` (the widget), ``curve_subjects`` (every number that can be a curve), ``strand_row_specs``
(what rows show of each kind of strand), ``row_heads``.

Worth knowing
-------------
- A pivot and whatever else of the frame is a curve has its ``CurveSubject`` in ``desk.chart.curve_subjects``: read,
  write, range.
- A strand of a plate stands on the chart as one of the shot's: its row sees the shot with the plate's shake in place
  of the shot's (``chart.row_groups``), and edits find the shake that holds a strand.
"""
