"""Motion as functions of time: shakes in, six channels out."""
