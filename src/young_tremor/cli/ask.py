"""``ask``: what a sentence is understood as, and what the window would offer for it."""

from __future__ import annotations

import json
from pathlib import Path

import click

from young_tremor import api
from young_tremor.cli.reporting import FILE


@click.command(context_settings={"ignore_unknown_options": True})  # “-6 dB” is a sentence
@click.argument("text")
@click.option("--project", type=FILE, help="The project that is asked about.")
@click.option("--shot", help="A shot of it by its name; the first if left out.")
@click.option("--json", "as_json", is_flag=True, help="Print one JSON object.")
def ask(text: str, project: Path | None, shot: str | None, as_json: bool) -> None:
    """Say how a sentence is understood, and what the window would offer for it."""
    answer = api.ask(text, None if project is None else api.open(project), shot=shot)
    if as_json:
        entries = [{"kind": entry.kind, "name": entry.name, "detail": entry.detail} for entry in answer.entries]
        click.echo(json.dumps({"understood": answer.understood, "entries": entries}, indent=2, ensure_ascii=False))
        return
    if answer.understood:
        click.echo(f"Understood: {answer.understood}")
    for entry in answer.entries:
        click.echo(f"{entry.kind:7} {entry.name}{'  ' if entry.detail else ''}{entry.detail}")
    if not answer.entries:
        click.echo(f"Nothing is called so. Ask for example: {'; '.join(api.ASK_EXAMPLES)}.")
