"""The command line: a public contract of names, columns, signs and exit codes."""

from __future__ import annotations

import json
import runpy
import shlex
from pathlib import Path

import cv2
import numpy as np
import pytest
from msgspec.structs import replace

from clips import clip, decoded
from young_tremor.__main__ import COMMANDS
from young_tremor.cli.examples import EXAMPLES
from young_tremor.cli.main import commands, main
from young_tremor.cli.reporting import ProgressBars
from young_tremor.engine.document.session import Session
from young_tremor.engine.library import preset_library
from young_tremor.model import shot_edits
from young_tremor.model.project import Project
from young_tremor.model.shake import Hit


def run(capsys: pytest.CaptureFixture, *args: object) -> tuple[int, str, str]:
    code = main([str(each) for each in args])
    out, err = capsys.readouterr()
    assert "Traceback" not in err
    assert len(err.strip().splitlines()) <= 1
    return code, out, err


def table(path: Path) -> tuple[dict[str, str], list[str], np.ndarray]:
    lines = path.read_text().splitlines()
    notes = dict(line[2:].split(": ", 1) for line in lines if line.startswith("# "))
    rows = [line for line in lines if not line.startswith("#")]
    return notes, rows[0].split(","), np.array([[float(v) for v in row.split(",")] for row in rows[1:]])


def test_motion_of_a_preset_scales_with_size_lens_rate_and_amount(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    def motion(name: str, *args: object) -> tuple[dict[str, str], np.ndarray]:
        assert run(capsys, "motion", *args, "-o", tmp_path / name)[0] == 0
        notes, columns, rows = table(tmp_path / name)
        assert columns == ["frame", "time_s", "x_px", "y_px", "roll_deg", "scale", "pan_deg", "tilt_deg"]
        return notes, rows

    walk = ("--preset", "walking", "--seconds", "5", "--seed", "9")
    notes, hd = motion("hd.csv", *walk, "--size", "1920x1080", "--fps", "24")
    assert {"width": "1920", "height": "1080", "fps": "24", "source": "Walking"}.items() <= notes.items()
    assert hd.shape == (120, 8)
    _, uhd = motion("uhd.csv", *walk, "--size", "3840x2160", "--fps", "60")
    np.testing.assert_allclose(uhd[::5][:, 2:4], 2 * hd[::2][:, 2:4], atol=2e-5)
    np.testing.assert_allclose(uhd[::5][:, 4:], hd[::2][:, 4:], atol=1e-6)
    _, twice = motion("twice.csv", *walk, "--amount", "2")
    np.testing.assert_allclose(twice[:, [2, 3, 4, 6, 7]], 2 * hd[:, [2, 3, 4, 6, 7]], atol=1e-5)
    _, fast = motion("fast.csv", *walk, "--pace", "2")
    np.testing.assert_allclose(fast[:60, 2:], hd[::2][:, 2:], atol=2e-5)
    _, still = motion("still.csv", *walk, "--amount", "0")
    assert not still[:, [2, 3, 4, 6, 7]].any()
    assert (still[:, 5] == 1).all()
    _, turned = motion("other.csv", "--preset", "walking", "--seconds", "00:00:05:00", "--seed", "10")
    assert np.std(turned[:, 2] - hd[:, 2]) > 0.2 * np.std(hd[:, 2])


def test_shake_moves_the_picture_as_the_motion_file_says(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    """Measured on pixels: the written film is the still one under the written matrix."""
    out, clean, csv = tmp_path / "shaken.mkv", tmp_path / "clean.mkv", tmp_path / "m.csv"
    common = ("--preset", "nervous title", "--seed", "4", "--amount", "3")
    code, *_ = run(
        capsys,
        "shake",
        footage,
        "-o",
        out,
        *common,
        "--edges",
        "mirror",
        "--shutter",
        "0",
        "--codec",
        "ffv1",
        "--clean",
        clean,
    )
    assert code == 0
    assert run(capsys, "motion", *common, "--size", "640x360", "--seconds", "2", "-o", csv)[0] == 0
    _, _, rows = table(csv)
    shaken, still = decoded(out)[::3], decoded(clean)[::3]
    centre = np.array([319.5, 179.5])
    for index in (0, 7, 23, 40):
        x, y, roll, scale = rows[index, 2:6]
        a = np.radians(roll)
        m = scale * np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])
        shift = centre + (x, y) - m @ centre
        moved = cv2.warpAffine(
            still[index],
            np.hstack([m, shift[:, None]]),
            (640, 360),
            flags=cv2.INTER_CUBIC,
            borderMode=cv2.BORDER_REFLECT_101,
        )
        # where it lies, not how sharp it is: both a little out of focus
        soft = [cv2.GaussianBlur(each.astype(np.float32), (0, 0), 1.0) for each in (moved, shaken[index])]
        assert np.abs(soft[0] - soft[1])[20:-20, 20:-20].mean() < 0.6
        assert np.abs(still[index].astype(int) - shaken[index]).mean() > 2


def test_projects_render_in_reel_order_and_by_shot(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    other = clip(tmp_path / "rack.mp4", frames=24, size=(640, 360))
    session = Session()
    for path in (footage, other):
        session.apply("Open", shot_edits.add_shot(path, preset_library.preset("seated, elbows resting")))
    session.save(tmp_path / "proof.tremor")
    code, *_ = run(capsys, "render", tmp_path / "proof.tremor", "-o", tmp_path / "reel.mp4")
    assert code == 0
    _, out, _ = run(capsys, "info", tmp_path / "reel.mp4", "--json")
    facts = json.loads(out)
    assert (facts["frames"], facts["size"], facts["pixel_format"]) == (72, "640x360", "yuv420p")
    assert run(capsys, "render", tmp_path / "proof.tremor", "--shot", "rack", "-o", tmp_path / "one.mp4")[0] == 0
    assert json.loads(run(capsys, "info", "--json", tmp_path / "one.mp4")[1])["frames"] == 24
    assert run(capsys, "motion", tmp_path / "proof.tremor", "--shot", "rack", "-o", tmp_path / "rack.csv")[0] == 0
    assert len(table(tmp_path / "rack.csv")[2]) == 24
    assert "Seated" in run(capsys, "info", tmp_path / "proof.tremor")[1]
    session.start(Project())
    session.save(tmp_path / "empty.tremor")
    code, _, err = run(capsys, "render", tmp_path / "empty.tremor", "-o", tmp_path / "no.mp4")
    assert (code, "no shots" in err) == (2, True)


def test_presets_and_info_are_machine_readable(footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    rows = json.loads(run(capsys, "presets", "--json")[1])
    assert all(row["name"] and row["group"] and row["note"] for row in rows)
    listed = run(capsys, "presets")[1]
    for row in rows:  # which are read without what they are made of
        assert f"{row['name']}  ({row['group']}" in listed
        assert row["note"] in listed
    facts = json.loads(run(capsys, "info", footage, "--json")[1])
    assert {"rate": "24", "frames": 48, "pixel_format": "yuv420p"}.items() <= facts.items()
    assert facts["colour"] == {"primaries": 1, "transfer": 1, "matrix": 1, "range": "limited"} | {
        "space": "Rec. 709",
        "found": "told",
    }
    assert facts["audio"] == ["aac 48000 Hz stereo"]


@pytest.mark.parametrize(
    ("args", "code", "words"),
    [
        (("shake",), 2, "Missing"),
        (("shake", "FOOTAGE"), 2, "output"),
        (("shake", "nowhere.mp4", "-o", "OUT"), 2, "nowhere.mp4 is not there"),
        (("shake", "FOOTAGE", "-o", "FOOTAGE"), 2, "exists already"),
        (("shake", "FOOTAGE", "-o", "OUT", "--preset", "Earthworm"), 2, "no preset “Earthworm”"),
        (("shake", "FOOTAGE", "-o", "OUT", "--edges", "melt"), 2, "melt"),
        (("shake", "FOOTAGE", "-o", "OUT", "--amount", "nan"), 2, "amount"),
        (("shake", "FOOTAGE", "-o", "OUT", "--focal", "0"), 2, "focal length"),
        (("shake", "FOOTAGE", "-o", "OUT", "--shutter", "900"), 2, "shutter"),
        (("shake", "FOOTAGE", "-o", "OUT", "--size", "big"), 2, "picture size"),
        (("shake", "FOOTAGE", "-o", "OUT", "--amount", "5000"), 2, "No crop can cover"),
        (("shake", "FOOTAGE", "-o", "/nowhere/at/all.mp4"), 2, "folder"),
        (("shake", "TEXT", "-o", "OUT"), 1, "notes.mp4 cannot be read as footage"),
        (("motion", "--preset", "walking", "--fps", "fast", "-o", "OUT"), 2, "frame rate"),
        (("motion", "-o", "OUT"), 2, "either a project or --preset"),
        (("render", "TEXT", "-o", "OUT"), 2, "JSON"),
        (("info", "nowhere.mov"), 2, "not there"),
        (("dance",), 2, "dance"),
    ],
)
def test_wrong_requests_say_one_line_and_leave_no_file(
    tmp_path: Path, footage: Path, capsys, args, code: int, words: str
) -> None:  # type: ignore[no-untyped-def]
    text = tmp_path / "notes.mp4"
    text.write_text("not footage")
    names = {"FOOTAGE": footage, "OUT": tmp_path / "out.mp4", "TEXT": text}
    got, _, err = run(capsys, *(names.get(each, each) for each in args))
    assert got == code
    assert words in err
    assert [p.name for p in tmp_path.iterdir()] == ["notes.mp4"]


def test_a_bar_shows_progress_on_a_terminal_only(monkeypatch, capsys) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setattr("sys.stderr.isatty", lambda: True, raising=False)
    bars = ProgressBars()
    for done in (1, 50, 100):
        bars("out.mp4", done, 100)
    words = capsys.readouterr().err
    assert "out.mp4" in words
    assert "100/100" in words
    assert words.endswith("\n")
    monkeypatch.setattr("sys.stderr.isatty", lambda: False, raising=False)
    ProgressBars()("out.mp4", 100, 100)
    assert capsys.readouterr().err == ""


@pytest.mark.parametrize(
    ("error", "words"),
    [
        (KeyboardInterrupt(), "Stopped"),
        (MemoryError(), "not enough memory"),
        (KeyError("x"), "should not have happened"),
    ],
)
def test_whatever_goes_wrong_is_one_line(footage: Path, monkeypatch, capsys, error, words: str) -> None:  # type: ignore[no-untyped-def]
    def fail(path: object, **more: object) -> None:
        raise error

    monkeypatch.setattr("young_tremor.engine.media.description.describe", fail)
    code, _, err = run(capsys, "info", footage)
    assert code == (130 if words == "Stopped" else 1)
    assert words in err


def test_a_saved_shake_is_used_and_one_of_ones_own_is_found_by_name(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    path = preset_library.save_own(replace(preset_library.preset("running"), name="Chase"))
    out = tmp_path / "a.csv"
    assert run(capsys, "motion", "--preset", "chase", "--seconds", "1", "-o", out)[0] == 0
    assert run(capsys, "motion", "--preset", "running", "--seconds", "1", "-o", tmp_path / "b.csv")[0] == 0
    np.testing.assert_array_equal(table(out)[2], table(tmp_path / "b.csv")[2])
    code, _, err = run(capsys, "shake", footage, "--shake", path, "--amount", "0.2", "-o", tmp_path / "c.mp4")
    assert (code, err) == (0, "")
    assert "Chase" in run(capsys, "presets")[1]
    code, _, err = run(capsys, "shake", footage, "--shake", path, "--preset", "running", "-o", tmp_path / "d.mp4")
    assert (code, "either" in err) == (2, True)
    code, _, err = run(capsys, "shake", footage, "--shake", tmp_path / "none.json", "-o", tmp_path / "d.mp4")
    assert (code, "not there" in err) == (2, True)


def test_jolts_in_a_project_are_in_its_motion_file(tmp_path: Path, footage: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    session = Session()
    session.apply("Open", shot_edits.add_shot(footage, preset_library.preset("press strike")))
    shot = session.project.shots[0].id
    session.apply("Hit", shot_edits.add_hits(shot, (Hit("h", 1.0, 1.0),)))
    session.save(tmp_path / "p.tremor")
    assert run(capsys, "motion", tmp_path / "p.tremor", "-o", tmp_path / "p.csv")[0] == 0
    rows = table(tmp_path / "p.csv")[2]
    assert not rows[:25, 2:5].any()
    assert 1 < np.abs(rows[25:, 3]).max() <= 0.009 * 360 + 1e-6


def test_what_was_noticed_about_the_footage_is_said_by_info_and_shake(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    stamps = np.cumsum([0, *np.random.default_rng(3).choice([40, 40, 80, 120, 33], 30)]).tolist()
    uneven = clip(tmp_path / "phone.mkv", frames=31, stamps=stamps)
    fields = clip(tmp_path / "fields.mp4", frames=12, options={"x264-params": "tff=1"})
    odd = clip(tmp_path / "odd.mkv", frames=4, codec="ffv1", size=(321, 181), pix_fmt="yuva444p")
    for path, words in (
        (uneven, ("variable frame rate",)),
        (fields, ("interlaced",)),
        (odd, ("with alpha, straight", "odd size 321x181", "H.264 holds no alpha", "written as 320x180", "4:4:4")),
    ):
        code, _, said = run(capsys, "shake", path, "-o", tmp_path / f"{path.stem}-out.mp4")
        _, told, _ = run(capsys, "info", path)
        assert code == 0
        for each in words:
            assert each in said
        assert words[0] in told


def test_commands_are_known_everywhere_and_their_examples_hold() -> None:
    assert set(COMMANDS) == set(commands.commands)
    root = Path(__file__).parents[1]
    start = (root / "start").read_text()
    assert all(f" {name} |" in start or f"  {name} |" in start for name in COMMANDS)
    names = {preset.name for preset in preset_library.presets()}
    for name, lines in EXAMPLES.items():
        for line in lines:
            first, second, *args = shlex.split(line.replace("“", '"').replace("”", '"').partition(" > ")[0])
            assert (first, second) == ("young-tremor", name)
            context = commands.commands[name].make_context(name, args)
            preset = context.params.get("preset_name")
            assert preset is None or preset in names, preset
    page = runpy.run_path(str(root / "scripts" / "man_page.py"))["page"]()
    assert (preset_library.ASSETS / "young-tremor.1").read_text() == page  # python scripts/man_page.py
    for shell in ("bash", "zsh", "fish"):
        assert main(["completion", shell]) == 0
