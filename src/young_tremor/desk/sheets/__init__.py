"""What lies over the desk for a while: ``preset_sheet``, ``take_sheet``, ``measure_sheet``, ``render_sheet``,
``command_finder``, ``preferences``, ``manual_window``, ``welcome``."""
