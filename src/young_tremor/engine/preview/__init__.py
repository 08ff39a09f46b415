"""Pictures for the screen, the wanted one first.

Worth knowing
-------------
- A window's preview is a process of its own where `launch.begin` was called before the window is built, as it is when
  the program is started; else it is a thread. Both are used in the same way and show the same.
- The first crop of a long shot, or of one that shimmers or has a region, is a guess from even moments, a little too
  large; the exact one is solved when the person rests, and given up for the next wish within a few dozen frames. What
  is changed meanwhile is shown under the last exact one.
- What is made ready in the reel: the next pictures, the first ones of the next shot, then the rest of this one. Where
  playing cannot keep up, the newest picture that is there is shown late.
"""
