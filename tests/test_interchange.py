"""Motion out to other tools and in from them; each checked by the other side's own library."""

from __future__ import annotations

import itertools
from pathlib import Path

import av
import cv2
import numpy as np
import pytest
import scipy
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from pxr import Usd, UsdGeom
from scipy.spatial.transform import Rotation

from test_cli import run, table
from young_tremor.base import motion_csv
from young_tremor.document import store
from young_tremor.engine.delivery import interchange
from young_tremor.engine.library import takes
from young_tremor.exchange import gyro_log
from young_tremor.export import key_reduction
from young_tremor.geometry import camera
from young_tremor.model.curve import Curve
from young_tremor.model.project import Shutter

UNITS = {"s": 1.0, "ms": 1e3, "us": 1e6, "ns": 1e9}


def hand(seconds: float, rate: float, seed: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Times (n,), pan, tilt and roll of a hand in degrees (n, 3), and a telephone's true turn rates (n, 3) rad/s."""
    rng = np.random.default_rng(seed)
    t = np.arange(int(seconds * rate) + 1) / rate
    rows = np.zeros((len(t), 3))
    for k in range(3):
        for f in (0.3, 0.7, 1.9, 4.1):
            rows[:, k] += rng.normal(0, 0.6 / f) * (np.sin(2 * np.pi * f * t + (p := rng.uniform(0, 6))) - np.sin(p))
    pan, tilt, roll = rows.T
    turned = Rotation.from_euler("xyz", np.column_stack([tilt, pan, roll]), degrees=True)
    step = (turned[:-1].inv() * turned[1:]).as_rotvec() * rate  # in its own axes, between two rows
    return t, rows, step


@settings(deadline=None, max_examples=12)
@given(
    seed=st.integers(0, 10_000),
    unit=st.sampled_from(list(UNITS)),
    degrees=st.booleans(),
    held=st.sampled_from(list(gyro_log.HELD)),
    order=st.permutations(["x", "y", "z"]),
)
def test_a_log_with_noise_and_bias_gives_the_turns(seed, unit, degrees, held, order) -> None:  # type: ignore[no-untyped-def]
    t, truth, rates = hand(10.0, 400.0, seed)
    rng = np.random.default_rng(seed)
    matrix = gyro_log.axes_matrix(gyro_log.HELD[held])
    said = rates @ matrix + rng.normal(0, 0.001, rates.shape) + rng.normal(0, 0.01, 3)  # in the telephone's own axes
    said = np.degrees(said) if degrees else said
    middle = (t[:-1] + t[1:]) / 2 + 1.6e3
    heads = [f"time [{unit}]", *(f"gyro_{axis} ({'deg' if degrees else 'rad'}/s)" for axis in order)]
    lines = [",".join(heads)]
    for when, row in zip(middle, said, strict=True):
        stamp = f"{when * UNITS[unit]:.{6 if unit == 's' else 0 if unit in ('us', 'ns') else 3}f}"
        lines.append(",".join([stamp, *(f"{row['xyz'.index(axis)]:.8g}" for axis in order)]))
    found = gyro_log.read("\n".join(lines), "log.csv")
    assert (found.time_unit, found.rate_unit) == (unit, "deg/s" if degrees else "rad/s")
    at, made = gyro_log.integrate_turns(found, axes=gyro_log.HELD[held], fps=100.0)
    wanted = np.column_stack([np.interp(at + middle[0] - 1.6e3, t, truth[:, k]) for k in range(3)])
    wanted -= wanted[0]
    assert np.abs(made - wanted).max() < 0.05


@pytest.mark.parametrize(("held", "up", "right"), [("left", (1, 0), (0, -1)), ("right", (-1, 0), (0, 1))])
def test_a_telephone_on_its_side_pans_when_it_turns_about_the_vertical(
    held: str, up: tuple[int, int], right: tuple[int, int]
) -> None:
    """``up`` and ``right``: where the world's up and right lie along the telephone's own x and y.

    On its left side the left edge is down, so that its x points up and its top (y) to the left.
    """
    t = np.arange(300) / 100
    turn = np.radians(10) * np.cos(2 * t)  # about the vertical, to the left
    lean = np.radians(3) * np.cos(5 * t)  # about the horizontal axis to the right, upwards
    x, y = (turn * up[k] + lean * right[k] for k in range(2))
    text = "time_s,gx,gy,gz\n" + "".join(f"{a:.3f},{b:.9f},{c:.9f},0\n" for a, b, c in zip(t, x, y, strict=True))
    found = gyro_log.read(text, "phone.csv", rate_unit="rad")
    at, made = gyro_log.integrate_turns(found, axes=gyro_log.HELD[held], fps=100.0, whole=True)
    np.testing.assert_allclose(made[:, 0], 5 * np.sin(2 * at), atol=0.1)  # pan: the picture goes right
    np.testing.assert_allclose(made[:, 1], 0.6 * np.sin(5 * at), atol=0.1)  # tilt: the picture goes down


def test_still_ends_tell_the_bias_gaps_are_bridged_and_dates_are_times() -> None:
    t, truth, rates = hand(10.0, 200.0, 4)
    calm = np.clip(np.minimum(t, 10 - t) - 2, 0, 1)[:-1, None]
    rates = rates * calm + [0.02, -0.01, 0.005]
    lines = [
        "date;x;y;z",
        *(
            f"2026-03-01T10:00:{when:09.6f};{x:.9f};{y:.9f};{z:.9f}"
            for when, (x, y, z) in zip(t[:-1], rates, strict=True)
        ),
    ]
    del lines[200:260]
    found = gyro_log.read("\n".join(lines), "log.csv", rate_unit="rad")
    assert found.gaps == 1
    _, made = gyro_log.integrate_turns(found)
    assert np.abs(made[-150:] - made[-1]).max() < 0.02  # still at the end, where the sensor says that it turns
    _, whole = gyro_log.integrate_turns(found, whole=True)
    assert np.abs(whole[-1] - whole[-101]).max() > 0.5
    assert truth.any()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("t,x,y,z\n0,1,2,3\n", "1 rows"),
        ("t,x,y,z\n0,0,0,0\n1,0,0,0\n0.5,0,0,0\n2,0,0,0\n", "line 4: the time goes backwards"),
        ("t,x,y,z\n0,0,0,0\n1,0,oak,0\n2,0,0,0\n", "line 3: there is no time with three numbers: “1,0,oak,0”"),
        ("t,x,y,z\n0,0,0,0\n1,0,inf,0\n2,0,0,0\n", "line 3"),
        ("t,x,y,z\n0,0,0,0\n1,0\n2,0,0,0\n", "line 3"),
        ("t,x\n0,0\n1,0\n2,0\n", "2 columns"),
        ("t,x,y,z\n0,0,0,0\n0,0,0,0\n0,0,0,0\n", "stands still"),
    ],
)
def test_a_wrong_log_is_said_with_its_line(text: str, words: str, tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    log = tmp_path / "log.csv"
    log.write_text(text)
    code, _, err = run(capsys, "gyro", log, "-o", tmp_path / "take.csv")
    assert code == 2
    assert words in err
    assert not (tmp_path / "take.csv").exists()


def test_a_log_becomes_a_take_that_shakes(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    t, truth, rates = hand(4.0, 200.0, 9)
    rows = np.column_stack([(t[:-1] + t[1:]) / 2 * 1000, rates])
    log = tmp_path / "walk.csv"
    np.savetxt(log, rows, delimiter=",", header="ms,wx,wy,wz", comments="", fmt="%.9g")
    code, out, _ = run(capsys, "gyro", log, "-o", tmp_path / "take.csv", "--whole", "--fps", "50")
    assert code == 0
    assert "time in ms, rates in rad/s, columns ms, wx, wy, wz" in out
    notes, columns, made = table(tmp_path / "take.csv")
    assert notes["fps"] == "50"
    wanted = np.column_stack([np.interp(made[:, 1] + 0.0025, t, truth[:, k]) for k in range(3)])
    order = [columns.index(name) for name in ("pan_deg", "tilt_deg", "roll_deg")]
    np.testing.assert_allclose(made[:, order], wanted - wanted[0], atol=0.01)
    assert run(capsys, "shake", footage, "--take", tmp_path / "take.csv", "-o", tmp_path / "out.mp4")[0] == 0
    assert run(capsys, "gyro", log, "-o", tmp_path / "b.csv", "--axes", "x,x,z")[0] == 2
    assert run(capsys, "gyro", log, "-o", log, "--overwrite")[0] == 2


def floats(path: Path) -> np.ndarray:
    """Red and green of an EXR, as another decoder gives them: (rows, columns, 2)."""
    with av.open(str(path)) as file:
        picture = next(file.decode(video=0))
        assert picture.format.name in ("gbrpf32le", "gbrapf32le")
        green, _, red = (np.frombuffer(p, np.float32).reshape(p.height, -1)[:, : p.width] for p in picture.planes[:3])
    return np.dstack([red, green])


@pytest.mark.parametrize("readout", [0.0, 0.02])
def test_maps_and_a_plain_remap_give_the_delivered_picture(readout: float, tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    rng = np.random.default_rng(2)
    soft = cv2.GaussianBlur(rng.random((270, 480, 3)), (0, 0), 7)
    soft = ((soft - soft.min()) / np.ptp(soft) * 60000).astype(np.uint16)
    cv2.imwrite(str(tmp_path / "still.png"), soft)
    (tmp_path / "out").mkdir()
    assert run(capsys, "reel", tmp_path / "still.png", "-o", tmp_path / "a.tremor", "--preset", "Walking")[0] == 0
    project = store.load(tmp_path / "a.tremor")
    shot = project.shots[0]
    frame = replace(shot.frame, shutter=Shutter(Curve(0.0)), readout=readout)
    project = replace(project, shots=(replace(shot, frame=frame, end=0.5),))
    store.save(project, tmp_path / "b.tremor")
    assert run(capsys, "deliver", tmp_path / "b.tremor", "--form", "png", "--to", tmp_path / "out")[0] == 0
    assert run(capsys, "stmap", tmp_path / "b.tremor", "-o", tmp_path / "st")[0] == 0
    maps = sorted((tmp_path / "st").glob("*.exr"))
    films = sorted((tmp_path / "out").glob("*.png"))
    assert len(maps) == len(films) == 12
    for number in (0, 5, 9):
        st_map = floats(maps[number])
        x = st_map[..., 0] * 480 - 0.5
        y = (1 - st_map[..., 1]) * 270 - 0.5
        assert np.abs(x - np.arange(480)).max() > 1
        # another's remap, by splines
        places = np.stack([y, x]).astype(np.float64)
        planes = [
            scipy.ndimage.map_coordinates(soft[..., k].astype(float), places, order=3, mode="nearest") for k in range(3)
        ]
        plain = np.stack(planes, axis=-1)
        shown = cv2.imread(str(films[number]), cv2.IMREAD_UNCHANGED).astype(float)
        assert shown.shape == plain.shape
        off = np.abs(shown - plain) / 257
        assert off.mean() < 0.03
        assert off.max() < 0.1


@settings(deadline=None, max_examples=20)
@given(
    values=st.tuples(*[st.floats(-12, 12)] * 2, st.floats(-20, 20), st.floats(-15, 15), *[st.floats(-8, 8)] * 2),
    focal=st.floats(18, 90),
)
def test_a_camera_sees_the_plane_as_the_shake_shows_it_and_comes_back(values, focal, tmp_path_factory) -> None:  # type: ignore[no-untyped-def]
    rows = np.array([np.zeros(6), values, np.array(values) / 3])
    x, y, roll, zoom, pan, tilt = rows.T
    columns = {
        "frame": np.arange(3.0),
        "time_s": np.arange(3) / 25,
        "x_px": x * 7.2,
        "y_px": y * 7.2,
        "roll_deg": roll,
        "scale": np.exp(zoom / 100),
        "pan_deg": pan,
        "tilt_deg": tilt,
    }
    text = motion_csv.text_of(motion_csv.MotionTable((1280, 720), columns, "25", round(focal, 3), "x"))
    path = tmp_path_factory.mktemp("usd") / "cam.usda"
    path.write_text(interchange.camera_text(text, distance=4.0))
    stage = Usd.Stage.Open(str(path))
    assert (stage.GetTimeCodesPerSecond(), stage.GetStartTimeCode(), stage.GetEndTimeCode()) == (25, 1, 3)
    prim = UsdGeom.Camera(stage.GetPrimAtPath("/Camera"))
    tall = 4.0 * prim.GetVerticalApertureAttr().Get() / prim.GetFocalLengthAttr().Get()
    points = np.array([[-0.4, -0.3], [0.5, 0.2], [0.1, 0.45]])
    plane = np.column_stack([points[:, 0] * tall, -points[:, 1] * tall, np.full(3, -4.0), np.ones(3)])
    shown = camera.apply(camera.shake(rows, camera.focal(round(focal, 3), 16 / 9)), points)
    for k, code in enumerate((1, 2, 3)):
        world = np.array(prim.ComputeLocalToWorldTransform(code)).T
        seen = plane @ np.linalg.inv(world).T
        flat = seen[:, :2] / -seen[:, 2:3] * 4.0 / tall * [1, -1]
        np.testing.assert_allclose(flat, shown[k], atol=2e-6)
    back = takes.read(path, distance=4.0).table()
    np.testing.assert_allclose(back[:, 3], roll, atol=1e-5)
    np.testing.assert_allclose(back[:, 5:7], np.column_stack([pan, tilt]), atol=1e-5)
    np.testing.assert_allclose(back[:, 4], np.exp(zoom / 100), atol=1e-6)
    np.testing.assert_allclose(back[:, 1:3], np.column_stack([x, y]) * 10.8, atol=2e-4)


def test_files_without_a_camera_are_refused_in_a_sentence(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    bad = {"none.usda": '#usda 1.0\ndef Sphere "ball" {}\n', "broken.usda": "#usda 1.0\ndef Camera", "text.usd": "oak"}
    for name, text in bad.items():
        (tmp_path / name).write_text(text)
        code, _, err = run(capsys, "shake", footage, "--take", tmp_path / name, "-o", tmp_path / "o.mp4")
        assert code == 2
        assert name in err
    assert not (tmp_path / "o.mp4").exists()


@settings(deadline=None, max_examples=30)
@given(seed=st.integers(0, 999), tolerance=st.floats(0.001, 0.5), count=st.integers(2, 200))
def test_keys_are_few_and_miss_nothing_by_more(seed: int, tolerance: float, count: int) -> None:
    rng = np.random.default_rng(seed)
    t = np.cumsum(rng.uniform(0.01, 0.1, count))
    v = np.cumsum(rng.normal(0, 0.05, count))
    keys = key_reduction.needed_keys(t, v, tolerance)
    assert keys[0] == 0
    assert keys[-1] == count - 1
    assert np.abs(np.interp(t, t[keys], v[keys]) - v).max() <= tolerance + 1e-12
    for a, b in itertools.pairwise(keys[:-1].tolist()):  # no line from a key could have reached one value further
        if b + 1 < count:
            line = np.interp(t[a : b + 2], t[[a, b + 1]], v[[a, b + 1]])
            assert np.abs(line - v[a : b + 2]).max() > tolerance - 1e-12


def test_motion_as_keys_and_as_a_camera_from_the_command_line(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    walk = ("motion", "--preset", "walking", "--seconds", "4")
    assert run(capsys, *walk, "--keys", "0.05", "--channel", "roll", "-o", tmp_path / "roll.csv")[0] == 0
    assert run(capsys, *walk, "-o", tmp_path / "all.csv")[0] == 0
    lines = (tmp_path / "roll.csv").read_text().splitlines()
    assert lines[0] == "channel,frame,time_s,value"
    keys = np.array([[float(v) for v in line.split(",")[2:]] for line in lines[1:]])
    _, columns, rows = table(tmp_path / "all.csv")
    assert 2 < len(keys) < len(rows) / 2
    off = np.interp(rows[:, 1], keys[:, 0], keys[:, 1]) - rows[:, columns.index("roll_deg")]
    assert 0 < np.abs(off).max() <= 0.05
    assert run(capsys, *walk, "--channel", "shutter", "-o", tmp_path / "b.csv")[0] == 2
    assert run(capsys, *walk, "-o", tmp_path / "cam.usda")[0] == 0
    assert UsdGeom.Camera(Usd.Stage.Open(str(tmp_path / "cam.usda")).GetPrimAtPath("/Camera"))
