"""Motion as functions of time: shakes in, six channels out.

Worth knowing
-------------
- Time. Everything is a function of seconds; nothing remembers the last frame. Pace and rate act through running
  integrals, so that a change of speed never makes the motion jump.
- Sums of sinusoids take whole turns off in double precision and evaluate in single: 1e-7 of the size, six times
  faster. All channels of a drift are summed at once. Times that repeat a pattern (even ones, three looks a frame) are
  products of coarse and fine turns. A sum never depends on which place a time has among others, so that stillness is
  still.
- Jolts are scaled by the peak of each hit's own course, found on a fine grid of products of coarse and fine turns;
  hits belong to the shot, so presets never carry them.
- Rests warp the drift's clock: seeded cells of time, in each a hold reached and left smoothly; what is returned is
  the running integral, so nothing jumps.
- While a number is dragged a strand's motion at times already asked for is kept (``motion.sample``), and a shot of
  more than 1,200 frames goes on under its last crop until the drag rests for a fifth of a second.
- After a take what follows starts with the take's last place and speed, and the difference dies away; the take itself
  is never touched.
- Rules. A drift or jolts of an old file keeps the ``rule`` by which it was worked out; new ones have today's.
- Reach in a shot (``Drift.holds``): a number of seconds, set when footage is opened in the window or a preset is put
  on; the course is scaled by its own quantile over them (``motion.strand_kinds``).
"""
