"""Everything that is written: films, pictures, stems, timelines, motion for other tools.

Worth knowing
-------------
- A delivery is planned from the document as it is when its turn comes, and checked as a whole before its first frame.
  What is kept fresh compares a mark of what it would show with the mark of what it showed.
- Numbered pictures depend on nothing but their number, so any part of them can be rendered by anybody.
"""
