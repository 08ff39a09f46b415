"""Project files: codec, migrations, atomic store."""
