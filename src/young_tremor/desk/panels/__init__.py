"""The panel at the right: ``panel`` holds the frame's controls or those of the chosen strand; ``figures`` beside the
picture."""
