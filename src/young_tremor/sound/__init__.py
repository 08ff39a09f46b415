"""What is heard: onsets found in sound."""
