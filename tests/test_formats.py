"""Every kind of source through every edge mode and every form, by numbers and colours.

Pairs are covered here: each kind with each edge mode, each kind with each form, each form with each edge mode. The
whole product is run by ``scripts/formats.py``.
"""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
import pytest
from msgspec.structs import replace

import kinds
from kinds import EDGES, FORMS, KINDS, Kind
from young_tremor.model.curve import Curve
from young_tremor.model.depth import Depth
from young_tremor.model.project import Media, Placement, Plate
from young_tremor.model.title import Title


@pytest.fixture(scope="module")
def sources(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    folder = tmp_path_factory.mktemp("kinds")
    return {kind.name: kinds.make(kind, folder) for kind in KINDS}


@pytest.mark.parametrize("form", FORMS)
def test_every_kind_comes_out_right_in_a_form(form: str, sources: dict[str, Path], tmp_path: Path) -> None:
    number = list(FORMS).index(form)
    bad = []
    for row, kind in enumerate(KINDS):
        edges = EDGES[(row + number) % len(EDGES)]
        if words := kinds.wrong(kind, sources[kind.name], edges, form, tmp_path):
            bad.append(f"{kind.name}, {edges}: {words}")
    assert not bad


@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.pix_fmt.startswith(("gray", "gbr", "rgb"))], ids=str)
def test_open_edges_hold_alpha_or_lie_over_black(kind: Kind, sources: dict[str, Path], tmp_path: Path) -> None:
    for form in ("ffv1", "png", "exr", "prores4444"):
        assert not kinds.wrong(kind, sources[kind.name], "open", form, tmp_path)


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.name)
def test_blends_depth_and_titles_lie_over_every_kind(kind: Kind, sources: dict[str, Path], tmp_path: Path) -> None:
    """A white title changes the middle alone and a black plate that is added nothing, in the colours of the kind."""
    source = sources[kind.name]
    with kinds.footage_of(source) as (_, given):
        pass
    shot = kinds.shot_of(source, "crop", amount=0.0)
    depth = tmp_path / "near.png"
    cv2.imwrite(str(depth), np.tile(np.linspace(0, 255, 64, dtype=np.uint8), (36, 1)))
    black = Plate("b", "Black", Media(kind="fill", colour="#000000"))
    title = Plate("t", "Title", Media(kind="title", title=Title("IIII", size=60.0)), glass=True)
    base = replace(shot.plates[0], depth=Depth(path=str(depth)))
    for blend in ("add", "screen"):
        plates = (base, replace(black, blend=blend), title)
        _, rgb = kinds.deliver(replace(shot, plates=plates), tmp_path / "out.mkv", "ffv1")
        assert np.abs(rgb[110:140].mean((0, 1)) - given[110:140].mean((0, 1))).max() < kinds.MOST_OFF
        assert rgb.max(-1)[40:110, 60:200].max() > 225
    half = replace(black, blend="normal", placement=Placement(opacity=Curve(0.5)))
    _, rgb = kinds.deliver(replace(shot, plates=(base, half)), tmp_path / "half.mkv", "ffv1")
    np.testing.assert_allclose(rgb[48:96].mean((0, 1)), given[48:96].mean((0, 1)) / 2, atol=kinds.MOST_OFF)
    _, rgb = kinds.deliver(
        replace(shot, plates=(base, replace(black, blend="multiply"))), tmp_path / "none.mkv", "ffv1"
    )
    assert rgb.max() < 3
