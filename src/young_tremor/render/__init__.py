"""The one renderer: ``plan`` resolves a shot, ``frame`` renders it."""
