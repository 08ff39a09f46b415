"""What is heard, as numbers in and numbers out: mixes, low noise, knocks, onsets.

Worth knowing
-------------
- Sound is a function of time like motion: a rumble's noise comes in blocks seeded by their number, so any block can
  be made by itself. The limiter looks ahead, at eight times the rate.
"""
