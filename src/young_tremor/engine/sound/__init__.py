"""What is heard of shots: mixes, waves, presets, stems."""
