"""The panel at the right: ``panel`` turns to the page that is wanted, ``controls`` makes controls of fields,
``motion_figures`` stands beside the picture."""
