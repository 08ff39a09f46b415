"""What a file or this machine holds."""

from __future__ import annotations

import json
from pathlib import Path

import click

from young_tremor.base.lazy_import import lazily
from young_tremor.cli.reporting import FILE
from young_tremor.engine.media import description
from young_tremor.engine.media.naming import existing

system_info = lazily("young_tremor.engine.system_info")


@click.command()
@click.argument("file", type=FILE, required=False)
@click.option("--json", "as_json", is_flag=True, help="Print one JSON object.")
@click.option("--loudness", is_flag=True, help="Measure loudness, even if that takes a while.")
@click.option("--system", is_flag=True, help="Describe this machine: versions, kernels, encoders, caches, folders.")
def info(file: Path | None, as_json: bool, loudness: bool, system: bool) -> None:
    """Describe a file, or this machine."""
    if system == (file is not None):
        raise click.UsageError("Name one file, or ask for --system.")
    if file is None:
        facts = system_info.facts()
    else:
        facts = description.describe(existing(file, pictures=True), loudness=loudness)
    if as_json:
        click.echo(json.dumps(facts, indent=2, ensure_ascii=False))
        return
    for key, value in facts.items():
        if isinstance(value, dict):
            value = ", ".join(f"{k} {v}" for k, v in value.items())
        elif isinstance(value, list):
            value = "; ".join(v if isinstance(v, str) else ", ".join(map(str, v.values())) for v in value) or "none"
        click.echo(f"{key.replace('_', ' ')}: {value}")
