"""Examples of every command, shown under its help and in the manual page."""

from __future__ import annotations

import click

EXAMPLES = {
    "shake": (
        "young-tremor shake press.mp4 -o press-shaken.mp4 --preset Walking --amount 0.6",
        "young-tremor shake proof.png -o proof.mov --seconds 5 --codec prores4444 --preset “Nervous title”",
        "young-tremor shake press.mp4 -o press-shaken.mp4 --move “30 px 2 Hz” --set “shutter 90”",
        "young-tremor shake a.mp4 b.mp4 c.mp4 --to shaken --take walk.csv",
        "young-tremor shake press.mp4 -o blow.mp4 --preset “Press strike” --hits 1.2,3.5@0.6 --sound with",
    ),
    "ask": (
        "young-tremor ask “motion blur 90” --project scene.tremor",
        "young-tremor ask “30 px 2 Hz” --project scene.tremor --json",
    ),
    "measure": (
        "young-tremor measure walk.mp4 -o walk.csv --from 1.5 --to 9",
        "young-tremor measure walk.mp4 -o walk.csv --shield 980,430,210,240 --focal 28",
        "young-tremor measure walk.mp4 -o walk.csv --leave rolling --json",
        "young-tremor measure walk.mp4 -o walk.csv --gyro log.csv",
    ),
    "motion": (
        "young-tremor motion scene.tremor --shot “Press, wide” -o press.csv",
        "young-tremor motion --preset Walking --seconds 4 --keys 0.05 --channel roll -o roll.csv",
        "young-tremor motion scene.tremor --distance 4 -o camera.usda",
    ),
    "margin": ("young-tremor margin --preset Walking --focal 35 -o guide.png",),
    "reel": (
        "young-tremor reel a.mp4 b.mp4 c.mp4 -o scene.tremor --preset Walking",
        "young-tremor reel cut.otio -o scene.tremor",
    ),
    "render": (
        "young-tremor render scene.tremor -o scene.mp4 --clean “scene clean.mp4”",
        "young-tremor render scene.tremor --each shots --codec prores",
    ),
    "deliver": (
        "young-tremor deliver scene.tremor --form prores --to masters --each --handles 12 --timeline back.otio",
        "young-tremor deliver scene.tremor --form exr --to plates --shot “Press, wide” --frames 1-48",
        "young-tremor deliver a.tremor b.tremor --to films --everywhere --json",
    ),
    "sound": (
        "young-tremor sound scene.tremor -o mix.wav --loudness -23",
        "young-tremor sound scene.tremor --shot “Press, wide” --stem Rumble -o rumble.wav",
    ),
    "stmap": (
        "young-tremor stmap scene.tremor --shot “Press, wide” -o maps",
        "young-tremor stmap press.mp4 --preset Walking -o maps/st.####.exr --exposures 8",
    ),
    "gyro": (
        "young-tremor gyro log.csv -o walk.csv",
        "young-tremor gyro log.csv -o walk.csv --held left --time ns --unit deg",
    ),
    "presets": ("young-tremor presets --json",),
    "info": ("young-tremor info press.mp4 --json",),
    "completion": (
        "young-tremor completion bash > ~/.local/share/bash-completion/completions/young-tremor",
        "young-tremor completion zsh > ~/.zfunc/_young-tremor",
        "young-tremor completion fish > ~/.config/fish/completions/young-tremor.fish",
    ),
    "desktop": ("young-tremor desktop", "young-tremor desktop --remove"),
}


def show_under(command: click.Command) -> None:
    """Put its examples under the help of a command."""
    lines = "\n".join(
        f"  {example.replace('“', chr(34)).replace('”', chr(34))}" for example in EXAMPLES[str(command.name)]
    )
    command.epilog = f"\b\nExamples:\n{lines}"
