"""What is heard: rumble, knocks, layers, sway, the limiter, loudness, stems, and sound in its place."""

from __future__ import annotations

import json
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy import signal

from clips import clip
from young_tremor.base.errors import MissingFile
from young_tremor.cli.main import main
from young_tremor.document import store
from young_tremor.engine.analysis import reel_layout as reels
from young_tremor.engine.delivery import actions
from young_tremor.engine.library import preset_library
from young_tremor.engine.media import footage
from young_tremor.engine.sound import mixing, sound_presets
from young_tremor.media import audio_cache, audio_reader, wave_writer
from young_tremor.model.curve import Curve, Key
from young_tremor.model.project import Media, Plate, Project, Shot, Span
from young_tremor.model.shake import Hit, Jolts, Plotted, Shake
from young_tremor.model.sound import Knocks, Layer, Mix, Rumble, SoundSway
from young_tremor.sound import knocks, limiter, rumble
from young_tremor.sound.camera_speed import CameraSpeed

RATE = 48000


def tone(hz: float, seconds: float, level: float = 0.25, rate: int = RATE, channels: int = 2) -> np.ndarray:
    t = np.arange(round(seconds * rate)) / rate
    return np.repeat((level * np.sin(2 * np.pi * hz * t))[:, None], channels, axis=1).astype(np.float32)


def wav(path: Path, samples: np.ndarray, rate: int = RATE, layout: str = "stereo") -> Path:
    with av.open(str(path), "w") as file:
        stream = file.add_stream("pcm_f32le", rate=rate, layout=layout)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples).reshape(1, -1), format="flt", layout=layout)
        frame.sample_rate, frame.pts, frame.time_base = rate, 0, Fraction(1, rate)
        file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path


def with_sound(path: Path, samples: np.ndarray, frames: int, codec: str = "pcm_s16le") -> Path:
    """A film of flat pictures with these samples as its sound."""
    with av.open(str(path), "w") as file:
        video = file.add_stream("ffv1" if path.suffix == ".mkv" else "libx264", rate=24)
        video.width, video.height, video.pix_fmt = 64, 36, "yuv420p"
        track = file.add_stream(codec, rate=RATE, layout="stereo")
        for number in range(frames):
            picture = av.VideoFrame.from_ndarray(np.full((36, 64, 3), 90, np.uint8), format="rgb24")
            picture.pts, picture.time_base = number, Fraction(1, 24)
            file.mux(video.encode(picture))
        file.mux(video.encode(None))
        for start in range(0, len(samples), 1024):
            block = np.ascontiguousarray(samples[start : start + 1024]).reshape(1, -1)
            frame = av.AudioFrame.from_ndarray(block, format="flt", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = RATE, start, Fraction(1, RATE)
            file.mux(track.encode(frame))
        file.mux(track.encode(None))
    return path


def moving(*, hits: tuple[Hit, ...] = (), sound: Mix = Mix(), media: Media | None = None, end: float = 4.0) -> Shot:
    """A picture that lies still, then runs to the right and back, then lies still."""
    way = Curve(0.0, (Key(1.0, 0.0, "linear"), Key(1.5, 20.0, "linear"), Key(2.0, 0.0, "linear")))
    shake = Shake((Plotted("p", x=way), Jolts("j", name="Blow", distance=34.3, delay=0.05)))
    media = media or Media(kind="fill", colour="#404040")
    return Shot("s", "Shot", (Plate("p", "p", media),), shake, hits=hits, sound=sound, end=end)


def heard(shot: Shot, seconds: float = 4.0, start: float = 0.0) -> np.ndarray:
    mixing.forget()
    return np.concatenate([np.zeros((0, 2), np.float32), *mixing.blocks(shot, seconds, start)])


def test_rumble_follows_the_speed_without_clicks_and_is_the_same_from_anywhere() -> None:
    row = Rumble(id="r", tone=50.0, spread=1.0, roughness=0.0, attack=0.05, release=0.2, seed=5)
    shot = moving(sound=Mix(rows=(row,), limit=False))
    whole = heard(shot)
    power = [
        float(np.sqrt((whole[int(a * RATE) : int(b * RATE)] ** 2).mean()))
        for a, b in ((0.2, 0.9), (1.2, 1.9), (3.4, 3.9))
    ]
    assert power[1] > 0.05
    assert power[0] < 1e-4 * power[1]
    assert power[2] < 0.05 * power[1]
    hz, density = signal.welch(whole[RATE : 2 * RATE, 0], RATE, nperseg=16384)
    inside = (hz > 25) & (hz < 100)
    assert density[inside].sum() > 0.95 * density.sum()
    assert np.abs(np.diff(whole, axis=0)).max() < 0.02  # nothing jumps
    for start in (0.7123, 1.5, 2.9999):
        np.testing.assert_array_equal(heard(shot, start=start), whole[round(start * RATE) :])
    other = heard(replace(shot, sound=Mix(rows=(replace(row, seed=6),), limit=False)))
    assert abs(np.corrcoef(other[:, 0], whole[:, 0])[0, 1]) < 0.2
    assert np.array_equal(heard(replace(shot, sound=Mix(on=False, rows=(row,)))), np.zeros_like(whole))


@settings(max_examples=25, deadline=None)
@given(st.integers(0, 10**7), st.integers(1, 40000), st.integers(0, 2**40))
def test_a_stretch_of_rumble_is_the_same_in_any_block(first: int, count: int, seed: int) -> None:
    row = Rumble(id="r", hum=0.4, roughness=0.5, seed=seed)
    whole = rumble.samples(row, first, count + 100)
    cut = count // 3
    parts = [rumble.samples(row, first, cut), rumble.samples(row, first + cut, count + 100 - cut)] if cut else [whole]
    np.testing.assert_array_equal(np.concatenate(parts), whole)


def test_rumble_has_the_loudness_width_and_hum_that_it_says() -> None:
    for hum, rough in ((0.0, 0.0), (0.7, 0.3)):
        made = rumble.samples(Rumble(id="r", tone=60.0, hum=hum, roughness=rough, width=0.0), 0, 20 * RATE)
        assert 20 * np.log10(np.sqrt((made**2).mean())) == pytest.approx(-20.0, abs=0.7)
        np.testing.assert_array_equal(made[:, 0], made[:, 1])
    wide = rumble.samples(Rumble(id="r", tone=60.0, width=1.0), 0, 20 * RATE)
    assert abs(np.corrcoef(wide.T)[0, 1]) < 0.1
    held = rumble.samples(Rumble(id="r", tone=60.0, hum=1.0, spread=3.0), 0, 10 * RATE)[:, 0]
    hz, power = signal.welch(held, RATE, nperseg=32768)
    lines = sum(power[np.abs(hz - 60 * k) < 3].sum() for k in range(1, 10))
    assert lines > 0.97 * power.sum()


def test_knocks_come_as_late_as_the_jolts_and_as_loud_as_their_hits() -> None:
    row = Knocks(id="k", room=0.0, differ=0.0, pitch=100.0, click=1.0, level=Curve(-6.0))
    shot = moving(hits=(Hit("a", 0.5), Hit("b", 2.5, 0.25)), sound=Mix(rows=(row,), limit=False))
    whole = np.abs(heard(shot)).max(axis=1)
    first, second = (int(np.flatnonzero(whole[int(a * RATE) :] > 1e-4)[0]) / RATE + a for a in (0.0, 2.0))
    assert (first, second) == (pytest.approx(0.65, abs=2e-4), pytest.approx(2.65, abs=4e-4))
    loud, soft = whole[: 2 * RATE].max(), whole[2 * RATE :].max()
    assert loud == pytest.approx(knocks.PEAK * 10 ** (-6 / 20), rel=0.01)
    assert soft == pytest.approx(0.25 * loud, rel=0.02)
    made = [knocks.render_knock(replace(row, differ=0.5), f"h{n}", 1.0)[0] for n in range(12)]
    assert 2 <= len({each.tobytes() for each in made}) <= knocks.ALIKE
    hard, easy = (knocks.render_knock(row, "a", s)[0][:, 0] for s in (2.0, 0.2))
    middle = [
        float((np.abs(np.fft.rfft(x, 8192)) * np.arange(4097)).sum() / np.abs(np.fft.rfft(x, 8192)).sum())
        for x in (hard, easy)
    ]
    assert middle[0] > 1.1 * middle[1]  # a harder blow is brighter
    long = knocks.render_knock(replace(row, room=1.0, reverb=2.0), "a", 1.0)[0]
    late = 10 * np.log10((long[RATE : RATE + 4800] ** 2).mean() / (long[RATE // 2 : RATE // 2 + 4800] ** 2).mean())
    assert late == pytest.approx(-15.0, abs=4.0)  # 60 dB in two seconds


def test_kept_pieces_of_sound_are_what_is_decoded_from_any_start(tmp_path: Path) -> None:
    path = clip(tmp_path / "tone.mp4", frames=60, audio=True)
    origin = footage.facts(str(path)).origin
    rng = np.random.default_rng(3)
    starts = [0.0, 1.7, *rng.uniform(-0.4, 3.0, 6).tolist()]
    for _ in range(2):  # decoded, then kept
        for start in starts:
            wanted = list(audio_reader.blocks(path, start, origin=origin))
            found = list(audio_cache.blocks(path, start, origin=origin))
            assert sum(map(len, found)) == sum(map(len, wanted))
            if wanted:
                np.testing.assert_allclose(np.concatenate(found), np.concatenate(wanted), atol=2e-4)


def test_the_limiter_holds_every_true_peak_and_leaves_the_rest_alone(tmp_path: Path) -> None:
    noise = np.random.default_rng(3).normal(0, 0.1, (6 * RATE, 2))
    noise[2 * RATE : 2 * RATE + 300] *= 30
    noise[4 * RATE :] = 1.4 * tone(RATE / 4 - 3, 2.0, 1.0)  # whose peaks lie between the samples
    blocks = np.concatenate([noise, np.zeros((limiter.BLOCK * 2, 2))])
    count = len(blocks) // limiter.BLOCK
    parts = [blocks[k * limiter.BLOCK : (k + 1) * limiter.BLOCK] for k in range(count)]
    made, least = [], []
    for k in range(1, count - 1):
        out, low = limiter.limit_block(parts[k - 1], parts[k], parts[k + 1])
        made.append(out)
        least.append(low)
    out = np.concatenate(made)
    fine = np.abs(signal.resample_poly(out, 8, 1, axis=0)).max()
    assert fine <= 10 ** (-0.95 / 20)
    assert min(least) < 0.4
    quiet = slice(RATE // 2, RATE)
    np.testing.assert_array_equal(out[quiet], noise[limiter.BLOCK :][quiet])


def test_loudness_is_what_the_standard_says() -> None:
    """EBU Tech 3341: a sine of 1 kHz at −23 dBFS in both channels is −23 LUFS; 3342 for the range."""
    blocks = lambda x: iter(np.array_split(x, 37))  # noqa: E731
    found = mixing.measure_loudness(blocks(tone(1000, 20, 10 ** (-23 / 20))))
    assert found.integrated == pytest.approx(-23.0, abs=0.1)
    assert found.short == pytest.approx(-23.0, abs=0.1)
    assert found.peak == pytest.approx(-23.0, abs=0.4)
    gated = np.concatenate([tone(1000, s, 10 ** (db / 20)) for s, db in ((10, -36), (60, -23), (10, -36))])
    assert mixing.measure_loudness(blocks(gated)).integrated == pytest.approx(-23.0, abs=0.1)
    ranged = np.concatenate([tone(1000, 20, 10 ** (db / 20)) for db in (-20, -30)])
    assert mixing.measure_loudness(blocks(ranged)).range == pytest.approx(10.0, abs=1.0)
    assert mixing.measure_loudness(iter([np.zeros((RATE, 2))])).integrated == -np.inf


def test_a_layer_loops_with_crossfades_and_sway_trembles_with_the_picture(tmp_path: Path) -> None:
    path = wav(tmp_path / "hum.wav", tone(440, 1.0, 0.2))
    row = Layer(id="l", path=str(path), fade=0.2, offset=0.25)
    shot = moving(sound=Mix(rows=(row,), limit=False))
    whole = heard(shot)
    assert not whole[: RATE // 4 - 10].any()
    size = np.sqrt(np.convolve(whole[RATE // 4 :, 0] ** 2, np.ones(4800) / 4800, "valid"))
    assert size.min() > 0.6 * np.median(size)
    np.testing.assert_allclose(heard(shot, start=2.2), whole[round(2.2 * RATE) :], atol=1e-6)
    once = heard(replace(shot, sound=Mix(rows=(replace(row, loop=False),), limit=False)))
    assert not once[round(1.26 * RATE) :].any()
    swayed = heard(
        replace(
            shot,
            sound=Mix(
                rows=(replace(row, offset=0.0),),
                limit=False,
                sway=SoundSway(on=True, level=6.0, balance=1.0, whole=True),
            ),
        )
    )
    plain = heard(replace(shot, sound=Mix(rows=(replace(row, offset=0.0),), limit=False)))
    ratio = np.sqrt(
        (swayed[:, 1] ** 2).reshape(-1, 4800).mean(axis=1) / (plain[:, 1] ** 2).reshape(-1, 4800).mean(axis=1)
    )
    assert ratio[17] > 1.2  # louder while it moves quickly
    for rest in (slice(0, int(0.95 * RATE)), slice(int(2.7 * RATE), None)):  # and as it is while nothing moves
        assert np.array_equal(swayed[rest], plain[rest])
    left, right = (float((swayed[int(1.45 * RATE) : int(1.55 * RATE), side] ** 2).mean()) for side in (0, 1))
    assert left < 0.5 * right  # the picture is at the right
    for bad, words in ((tmp_path / "gone.wav", "not there"), (clip(tmp_path / "mute.mp4", frames=5), "no sound")):
        with pytest.raises(Exception, match=words):
            heard(replace(shot, sound=Mix(rows=(replace(row, path=str(bad)),))))
    with pytest.raises(MissingFile):
        mixing.check(replace(shot, sound=Mix(rows=(replace(row, path=str(tmp_path / "gone.wav")),))))


def test_a_file_follows_the_shake_and_goes_from_side_to_side(tmp_path: Path) -> None:
    path = wav(tmp_path / "hum.wav", tone(220.0, 4.0))
    ramp = Curve(0.0, (Key(0.0, 0.0, "linear"), Key(4.0, 1.0, "linear")))
    row = Layer(id="l", path=str(path), follow="intensity", attack=0.01, release=0.01)
    shot = moving(sound=Mix(footage=False, rows=(row,), limit=False))
    shot = replace(shot, shake=replace(shot.shake, intensity=ramp))

    def loudness(samples: np.ndarray, at: float) -> np.ndarray:
        part = samples[round((at - 0.1) * RATE) : round((at + 0.1) * RATE)]
        return np.sqrt((part**2).mean(axis=0))

    whole = 0.25 / np.sqrt(2)
    samples = heard(shot)
    for at in (1.0, 2.0, 3.0):
        np.testing.assert_allclose(loudness(samples, at), whole * at / 4, rtol=0.06)
    plain = replace(row, follow="nothing", place=Curve(0.0, (Key(0.0, -1.0, "linear"), Key(4.0, 1.0, "linear"))))
    samples = heard(replace(shot, sound=replace(shot.sound, rows=(plain,))))
    for at, left, right in ((1.0, 1.0, 0.5), (2.0, 1.0, 1.0), (3.0, 0.5, 1.0)):
        np.testing.assert_allclose(loudness(samples, at), (whole * left, whole * right), rtol=0.06)


@pytest.mark.parametrize("limit", [False, True])
def test_a_mix_that_was_heard_is_kept_until_something_of_it_changes(tmp_path: Path, limit: bool) -> None:
    path = wav(tmp_path / "hum.wav", tone(440, 4.0, 0.9))
    row = Layer(id="l", path=str(path), level=Curve(3.0))
    shot = moving(hits=(Hit("h", 2.5),), sound=Mix(rows=(row, Knocks(id="k"), Rumble(id="r")), limit=limit))
    whole = heard(shot)
    mixing.forget()
    begun = mixing.blocks(shot, 4.0, 1.3)
    some = np.concatenate([next(begun) for _ in range(9)])
    some *= 0  # whoever is given a block may change it
    begun.close()
    again = np.concatenate(list(mixing.blocks(shot, 4.0)))  # some of it kept, the rest made about it
    np.testing.assert_array_equal(again, whole)
    softer = replace(shot, sound=replace(shot.sound, rows=(replace(row, level=Curve(-3.0)), *shot.sound.rows[1:])))
    assert not np.array_equal(np.concatenate(list(mixing.blocks(softer, 4.0))), whole)
    wav(path, tone(220, 3.9, 0.9))
    changed = np.concatenate(list(mixing.blocks(shot, 4.0)))
    assert not np.array_equal(changed, whole), "the file is another one"
    np.testing.assert_array_equal(changed, heard(shot))


def test_a_span_sounds_on_through_the_cuts() -> None:
    way = Curve(0.0, tuple(Key(k / 2, 10.0 * (k % 2), "linear") for k in range(12)))
    row = Rumble(id="r", roughness=0.0)
    span = Span("n", "Swell", 0.0, 5.0, 0.0, 0.0, Shake((Plotted("p", x=way),)), sounds=(row,))
    shots = tuple(replace(moving(end=end), id=name, shake=Shake()) for name, end in (("a", 2.0), ("b", 3.0)))
    cut = [
        reels.under_spans(Project(shots, spans=(span,)), each)
        for each in reels.place_shots(Project(shots, spans=(span,)))
    ]
    parts = [heard(shot, seconds) for shot, seconds in zip(cut, (2.0, 3.0), strict=True)]
    whole = replace(shots[0], end=5.0)
    (one,) = [
        reels.under_spans(Project((whole,), spans=(span,)), each) for each in reels.place_shots(Project((whole,)))
    ]
    np.testing.assert_allclose(np.concatenate(parts)[RATE // 8 :], heard(one, 5.0)[RATE // 8 :], atol=2e-4)


def sound_of(film: Path) -> np.ndarray:
    """All that is heard of a film: (n, 2)."""
    return np.concatenate(list(footage.sound_blocks(replace(moving(media=Media(str(film))), start=0.0), 0.0)))


def test_a_click_stands_at_its_frame_in_every_form_and_what_is_played_is_delivered(tmp_path: Path) -> None:
    samples = np.zeros((4 * RATE, 2), np.float32)
    at = round(70 / 24 * RATE)
    samples[at : at + 24] = 0.8
    film = with_sound(tmp_path / "click.mkv", samples, 96)
    quiet = replace(moving(media=Media(str(film))), sound=Mix(level=Curve(-6.0)), end=None)
    for name, codec in (("out.mp4", "h264"), ("out.mkv", "ffv1")):
        out = tmp_path / name
        actions.render((quiet,), out, lambda done, total: None, codec_name=codec)
        back = sound_of(out)
        found = int(np.argmax(np.abs(back[:, 0]))) / RATE
        assert found == pytest.approx(at / RATE, abs=1e-3)
    mixed = replace(quiet, sound=Mix(rows=(sound_presets.find_sound(Rumble, "ground"),)))
    actions.render((mixed,), tmp_path / "mix.mkv", lambda done, total: None, codec_name="ffv1")
    back = sound_of(tmp_path / "mix.mkv")
    np.testing.assert_allclose(back, heard(mixed), atol=2e-7)  # 24 bits and more
    for part in (0.0, 1.3):
        np.testing.assert_array_equal(heard(mixed, start=part), heard(mixed)[round(part * RATE) :])


def test_a_click_stands_within_a_millisecond_after_an_hour_of_shots(tmp_path: Path) -> None:
    samples = np.zeros((round(10 * RATE), 2), np.float32)
    film = with_sound(tmp_path / "ten.mkv", samples, 240)
    samples[-RATE // 2] = 0.9
    last = with_sound(tmp_path / "last.mkv", samples, 240)
    quieter = Mix(level=Curve(-3.0), limit=False)
    mute = clip(tmp_path / "mute.mkv", frames=240, size=(32, 32))
    long = Fraction(300, 1) * Fraction(1001, 30000)  # of shots at a rate that never comes out even
    films = [last if n == 359 else mute if n % 12 else film for n in range(360)]
    shots = tuple(replace(moving(media=Media(str(each))), id=f"s{n}", sound=quieter) for n, each in enumerate(films))
    every = mixing.film(shots, tuple(float(long) for _ in shots))
    place, found = 0, None
    for block in every:
        if np.abs(block).max(initial=0) > 0.1:
            found = place + int(np.argmax(np.abs(block[:, 0])))
        place += len(block)
    assert place == round(360 * float(long) * RATE)
    wanted = 359 * float(long) + 9.5
    assert wanted > 3590
    assert found is not None
    assert found / RATE == pytest.approx(wanted, abs=1e-3)


def test_stems_add_up_to_the_mix_and_say_when_they_begin(tmp_path: Path) -> None:
    shot = moving(
        hits=(Hit("a", 0.5),), sound=Mix(rows=(Rumble(id="r", level=Curve(-6.0)), Knocks(id="k")), limit=False)
    )
    path = tmp_path / "scene.tremor"
    store.save(Project((shot,)), path)
    for name in ("Rumble", "knocks"):
        assert main(["sound", str(path), "-o", str(tmp_path / f"{name}.wav"), "--stem", name]) == 0
    assert main(["sound", str(path), "-o", str(tmp_path / "mix.wav")]) == 0
    made = {name: audio_reader.read_sound(tmp_path / f"{name}.wav", 10.0) for name in ("Rumble", "knocks", "mix")}
    np.testing.assert_allclose(made["Rumble"] + made["knocks"], made["mix"], atol=3e-7)
    assert len(made["mix"]) == 4 * RATE
    assert b"bext" in (tmp_path / "mix.wav").read_bytes()[:4096]
    wave_writer.write(tmp_path / "late.wav", iter([tone(100, 0.1)]), first=3600 * RATE)
    with av.open(str(tmp_path / "late.wav")) as file:
        assert (file.metadata["time_reference"], file.streams.audio[0].codec.name) == (str(3600 * RATE), "pcm_s24le")
    for line, words in ((["--stem", "Wind"], "no sound"), (["--loudness", "7"], "cannot be used")):
        assert main(["sound", str(path), "-o", str(tmp_path / "x.wav"), *line]) == 2, words
    assert main(["sound", str(path), "-o", str(tmp_path / "x.mp3")]) == 2


def test_shake_with_sound_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture) -> None:
    film = with_sound(tmp_path / "press.mkv", tone(300, 2.0, 0.05), 48)
    out = tmp_path / "out.mp4"
    line = [
        "shake",
        str(film),
        "-o",
        str(out),
        "--preset",
        "press strike",
        "--hits",
        "0.5",
        "--sound",
        "with",
        "--rumble",
        "ground@-9",
        "--sound-sway",
        "3",
        "--loudness",
        "-16",
    ]
    assert main(line) == 0
    capsys.readouterr()
    assert main(["info", str(out), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["loudness"]["integrated_lufs"] == pytest.approx(-16.0, abs=1.0)
    assert told["loudness"]["true_peak_dbtp"] <= -0.4
    for extra, words in (
        (["--rumble", "nothing"], "no rumble"),
        (["--knocks", "dull@x"], "with a level"),
        (["--preset", "gate weave", "--sound", "with"], "no sound that belongs"),
        (["--preset", "walking", "--knocks", "dull"], "no"),
    ):
        assert main(["shake", str(film), "-o", str(tmp_path / "no.mp4"), *extra]) == 2
        assert words in capsys.readouterr().err
    assert main(["shake", str(film), "-o", str(tmp_path / "plain.mkv"), "--codec", "ffv1"]) == 0
    with av.open(str(tmp_path / "plain.mkv")) as file:
        assert file.streams.audio[0].codec.name == "pcm_s16le"  # nothing was asked of the sound: it is passed on


def test_what_is_shipped_belongs_together() -> None:
    assert len(sound_presets.shipped_sounds(Rumble)) >= 8
    assert len(sound_presets.shipped_sounds(Knocks)) >= 12
    for preset in preset_library.factory():
        for row in sound_presets.of_preset(preset):
            assert row.name
    near = sound_presets.of_preset(preset_library.preset("near blast"))
    assert [type(row).__name__ for row in near].count("Knocks") == 2
    walk = sound_presets.propose_sounds(preset_library.preset("walking").shake)
    assert [type(row) for row in walk] == [Rumble]
    course = CameraSpeed(lambda t: np.column_stack([10 * t, *[0 * t] * 5]), lambda t: 0 * t + 1, 2.0)
    np.testing.assert_allclose(course.speed(np.array([0.0, 3.3])), 0.1, atol=1e-9)
    turning = CameraSpeed(lambda t: np.column_stack([*[0 * t] * 4, t, 0 * t]), lambda t: 0 * t + 1, 2.0)
    np.testing.assert_allclose(turning.speed(np.array([0.0])), 2 * np.pi / 180, rtol=1e-4)


def test_sound_in_a_project_is_kept_and_its_files_travel(tmp_path: Path) -> None:
    path = wav(tmp_path / "hum.wav", tone(440, 0.5))
    shot = moving(sound=Mix(rows=(Layer(id="l", path=str(path)), Knocks(id="k", path=str(path)))))
    store.save(Project((shot,)), tmp_path / "a.tremor")
    assert '"hum.wav"' in (tmp_path / "a.tremor").read_text()
    assert store.load(tmp_path / "a.tremor").shots[0].sound == shot.sound
    heard = mixing.loudness_of(replace(shot, sound=Mix(rows=shot.sound.rows[:1])), 1.0)
    assert heard.numbers()["range_lu"] is not None
