"""Everything that is written: films, pictures, stems, timelines, motion for other tools."""
