"""Motion out of pictures: tracked from frame to frame, accumulated to a path, learned as a spectrum."""
