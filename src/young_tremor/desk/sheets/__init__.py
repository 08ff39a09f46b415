"""What lies over the desk for a while: ``presets``, ``takes``, ``measure_view``, ``render_sheet``, ``finder``,
``preferences``, ``manual``, ``welcome``."""
