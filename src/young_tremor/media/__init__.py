"""Files of picture and sound in and out, one module a job.

Worth knowing
-------------
- Titles and drawings have no pixels of their own: a ``DrawnSource`` makes them as large as a frame shows them
  (``plan.scale_of``). A title's frame is made of pieces, each of a part that goes its own way.
- A file's state (device, inode, size, time) is its identity: facts, readers, plans and previews of another state are
  never used; a reader looks at it before every picture it decodes.
- Reading goes by timestamp. On the way from a key picture to the wanted one, pictures that no other is made from are
  passed over.
- Pixel shape in Matroska cannot be set through the binding for codecs that do not carry it themselves;
  ``media.matroska_header`` writes it into the padding of the finished track header.
"""
