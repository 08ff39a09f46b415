"""What is worked out of a shot: traces, figures, margins, found hits, where it lies in the reel."""
