"""The document as frozen values, and the pure edits on it.

Worth knowing
-------------
- Variants: the one in use is the shot's ``shake``, the others stand beside it by their letters.
- A take is bytes: little-endian float64 rows. Bytes keep their hash, so that a strand with a minute of motion is as
  cheap a cache key as any, and they compare by identity first.
- Trims and splits move keys and hits with the pictures; drifts and takes go on because a shake says how far its clock
  has run (``Shake.begins``), and what counts from a shot's beginning (ease in, steps, where a reach holds, keys of a
  rate) because it says how much was cut off before it (``Shake.trimmed``). A film with handles is such a trim.
- A change with several shots chosen is spread by the session's ``propagate`` hook (``reel_edits.spread``): what the
  change did to the one shot's numbers is done to strands of the same kind and name. ``reel_edits.with_differences``
  says where they differ.
- Values check themselves (``model.fields.Checked``), so whatever is made, typed or read is inside its limits, and
  what is saved can be read again.
"""
