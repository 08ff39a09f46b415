"""Reduced copies of heavy footage: what they show, where they are kept, and that nothing but the screen knows them."""

from __future__ import annotations

import os
import threading
from pathlib import Path

import numpy as np
import pytest

from clips import clip, decoded
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage, proxies
from young_tremor.engine.preview.preview_worker import PictureRequest, PreviewWorker
from young_tremor.engine.system.priority import PriorityGate
from young_tremor.media import plane_scaler
from young_tremor.render.screen import reduce

LARGE = (2880, 1620)


def quiet(done: int, total: int) -> None:
    assert 0 <= done <= total


@pytest.fixture(scope="module")
def heavy(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return clip(tmp_path_factory.mktemp("heavy") / "large.mp4", frames=10, size=LARGE, options={"preset": "ultrafast"})


def test_a_copy_shows_every_picture_by_its_number_and_is_of_one_state(heavy: Path, tmp_path: Path) -> None:
    info = footage_info(heavy)
    assert proxies.size_of(footage_info(clip(tmp_path / "small.mp4", frames=3))) is None, "light footage needs none"
    assert proxies.size_of(info) == (1440, 810)
    place = proxies.make(str(heavy), quiet)
    assert place == proxies.place_of(str(heavy), info)
    ours, theirs = footage.open_source(str(place)), footage.open_source(str(heavy))
    small = (640, 360)
    for index in (9, 0, 5):
        got, wanted = reduce(proxies.read(ours, index, info), small), reduce(theirs.read(index), small)
        assert (got.format, got.colour) == (wanted.format, wanted.colour)
        for one, other in zip(got.planes, wanted.planes, strict=True):
            assert np.abs(one.astype(int) - other).mean() < 1.0
    ours.close()
    theirs.close()
    os.utime(heavy, (1, 1))
    assert proxies.place_of(str(heavy), footage_info(heavy)) != place


def test_work_that_is_stopped_leaves_nothing_and_room_is_made(heavy: Path, tmp_path: Path, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    class Enough(Exception):
        pass

    def enough(done: int, total: int) -> None:
        if done == 3:
            raise Enough

    with pytest.raises(Enough):
        proxies.make(str(heavy), enough)
    place = proxies.place_of(str(heavy), footage_info(heavy))
    assert not list(place.parent.iterdir())
    for number in range(3):
        (tmp_path / f"{number}.mp4").write_bytes(bytes(1000))
        os.utime(tmp_path / f"{number}.mp4", (number, number))
    monkeypatch.setattr(proxies, "MOST", 2500)
    proxies._make_room(tmp_path)
    assert sorted(path.name for path in tmp_path.iterdir()) == ["1.mp4", "2.mp4"]


def footage_info(path: Path):  # type: ignore[no-untyped-def]
    return footage.facts(str(path)).info


def test_the_screen_takes_them_once_the_person_rests_and_deliveries_never(heavy: Path, tmp_path: Path) -> None:
    clock = [0.0]
    rest = PriorityGate(lambda: clock[0])
    copies = proxies.ProxyMaker(rest, quiet=5.0)
    preview, came = PreviewWorker(copies=copies, rest=rest), threading.Event()
    shown: list[np.ndarray] = []
    preview.picture.connect(lambda picture: shown.append(picture.rgb))
    preview.picture.connect(lambda picture: came.set())
    shot = actions.one_shot(heavy, preset_library.preset("walking"), seconds=0.25)

    def look(index: int) -> np.ndarray:
        came.clear()
        preview.ask(PictureRequest(shot, (560, 316), "shaken", index, fill=False))
        assert came.wait(60)
        return shown[-1].astype(int)

    before = look(4)
    info = footage_info(heavy)
    assert copies.ready(str(heavy), info) is None, "the person has just asked for something"
    clock[0] = 10.0
    until = threading.Event()
    for _ in range(600):
        if copies.ready(str(heavy), info) is not None:
            break
        until.wait(0.1)
    place = copies.ready(str(heavy), info)
    assert place is not None
    preview.sources.kept.clear()
    preview.pictures.clear()
    look(1)
    after = look(4)
    assert any(key[1] == "reduced" for key in preview.sources._readers)
    assert 0 < np.abs(after - before).mean() < 1.2
    actions.render((shot,), tmp_path / "with.mkv", quiet, codec_name="ffv1")
    place.write_bytes(b"not a film at all")
    preview.sources._readers.close()
    preview.sources.kept.clear()
    preview.pictures.clear()
    look(1)
    np.testing.assert_array_equal(look(4), before)  # a broken copy is passed over
    assert not place.exists()
    actions.render((shot,), tmp_path / "without.mkv", quiet, codec_name="ffv1")
    assert all(map(np.array_equal, decoded(tmp_path / "with.mkv"), decoded(tmp_path / "without.mkv")))
    copies.close()
    preview.close()


@pytest.mark.parametrize(
    ("dtype", "top", "apart"), [(np.uint8, 255, 1.5), (np.uint16, 1023, 2.0), (np.uint16, 65535, 80.0)]
)
def test_planes_are_averaged_over_the_area_of_each_pixel(dtype: type, top: int, apart: float) -> None:
    rng = np.random.default_rng(3)
    for shape, size in (((216, 384), (148, 84)), ((270, 480), (172, 97)), ((135, 241), (240, 134))):
        plane: np.ndarray = rng.integers(0, top, shape, endpoint=True).astype(dtype)
        exact = _weights(shape[0], size[1]) @ plane.astype(float) @ _weights(shape[1], size[0]).T
        scaled = plane_scaler.scale_by_area(plane, size)
        assert scaled.dtype == plane.dtype
        assert scaled.shape == size[::-1]
        assert np.abs(scaled - exact).max() < apart, (shape, size)
    np.testing.assert_array_equal(plane_scaler.scale_by_area(np.full((90, 160), top, dtype), (70, 40)), top)


def _weights(old: int, new: int) -> np.ndarray:
    """How much of each of ``old`` samples lies in each of ``new`` ones of the same length in all: (new, old)."""
    ends = np.arange(new + 1) * old / new
    edges = np.clip(ends[:, None], np.arange(old), np.arange(1, old + 1)) - np.arange(old)
    return np.asarray(np.diff(edges, axis=0) * new / old)
