"""Motions in figures as entries: in place of the shake, added to it, or given to the chosen strand."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace

from young_tremor.engine.asking import motion_phrase
from young_tremor.engine.asking.entries import ChangeShot, Entry
from young_tremor.engine.asking.motion_phrase import MotionPhrase
from young_tremor.engine.asking.question import Question
from young_tremor.engine.asking.settings_index import Place
from young_tremor.engine.library import preset_diff, word_table
from young_tremor.model.project import Plate, Shot, new_id
from young_tremor.model.shake import Drift, Hit, Jolts, Shake, Strand

WHOLE, SIZE, RATE = 2.9, 2.2, 1.0  # how likely a motion is meant: by size and rate, by one of them
UNKNOWN = 0.3  # what each word that is not understood leaves of that
NEAR = 1e-3  # seconds within which two hits are one
CALLED = 0.4  # “amplitude 20 px”: rather the number that is called so


def moves(phrase: MotionPhrase, question: Question) -> list[Entry]:
    """What can be done with a motion that was understood."""
    place, score = question.place, _score(phrase, question)
    if phrase.jolts:
        return _jolts(phrase, place, score)
    fresh = preset_diff.plain("drift", new_id(), 5)
    assert isinstance(fresh, Drift)
    drift = _drift(phrase, fresh, place)
    detail = f"Drift: {phrase.words()}"
    instead = ChangeShot("Drift in figures", partial(_put, drift, place, beside=False))
    beside = ChangeShot("Add drift", partial(_put, drift, place, beside=True))
    first_added = 0.02 if phrase.way == "added" else 0.0
    entries = [
        Entry("move", "In place of the shake", detail, instead, score),
        Entry("move", "Added to the shake", detail, beside, score - 0.01 + first_added),
    ]
    plate = _plate_meant(question)
    if plate is not None:
        change = ChangeShot("Drift in figures", partial(_move_plate, drift, plate.id, place))
        first = 0.02 if place.at_plate or question.says("of a plate") else -0.015
        entries.append(Entry("move", f"On the plate {plate.name} alone", detail, change, score + first))
    chosen = next((strand for strand in place.shot.shake.strands if strand.id == place.strand), None)
    if isinstance(chosen, Drift):
        own = _drift(phrase, chosen, place)
        own = replace(own, name=chosen.name, amount=own.amount if phrase.shape else chosen.amount)
        change = ChangeShot("Drift in figures", partial(_exchange, own, place))
        entries.append(Entry("move", f"To the chosen strand, {chosen.name}", detail, change, score - 0.02))
    return entries


def _score(phrase: MotionPhrase, question: Question) -> float:
    """How likely a motion is meant."""
    whole = bool(phrase.amounts) and phrase.rate is not None
    unknown = [word for word in phrase.unknown if word not in word_table.words("of a plate")]
    score = (WHOLE if whole else SIZE if phrase.amounts else RATE) * UNKNOWN ** len(unknown)
    called = not word_table.words("names of figures").isdisjoint(question.content)
    return score * CALLED if called and not whole else score


def _jolts(phrase: MotionPhrase, place: Place, score: float) -> list[Entry]:
    """Jolts at the shot's hits; with a stretch, or where there are no hits, one jolt with a hit of its own."""
    if not phrase.amounts:
        return []
    phrase = phrase.within(place.seconds)
    strand = motion_phrase.jolts_of(phrase, new_id(), height=place.size[1])
    alone = phrase.start is not None or not place.shot.hits
    hit = Hit(new_id(), place.now if phrase.start is None else phrase.start)
    change = ChangeShot("Add jolts", partial(_strike, strand, hit if alone else None, place))
    name = f"One jolt at {hit.t:.2f} s, added to the shake" if alone else "Jolts, added to the shake"
    return [Entry("move", name, f"Jolts: {phrase.words()}", change, score)]


def _strike(strand: Jolts, hit: Hit | None, place: Place, shot: Shot) -> Shot:
    """A shot with jolts besides, and with a hit for them if there is to be one."""
    shot = _put(strand, place, shot, beside=True)
    if hit is None or any(abs(other.t - hit.t) < NEAR for other in shot.hits):
        return shot
    return replace(shot, hits=tuple(sorted((*shot.hits, hit), key=lambda item: item.t)))


def _plate_meant(question: Question) -> Plate | None:
    """The plate that can be moved alone: the chosen one, or the highest where one is spoken of. The shot's own plate
    only counts where its letters go their own ways: it moves with the shot otherwise."""
    shot = question.place.shot
    plate = next((plate for plate in shot.plates if plate.id == question.place.plate), None)
    if plate in (None, shot.footage) and question.says("of a plate") and shot.plates:
        plate = shot.plates[-1]
    title = plate.media.title if plate is not None else None
    apart = title is not None and title.apart != "whole"
    return plate if plate is not shot.footage or apart else None


def _move_plate(drift: Drift, plate_id: str, place: Place, shot: Shot) -> Shot:
    """A shot one plate of which has a shake of its own."""
    moved = Shake((_fitted(drift, place),))
    return replace(shot, plates=tuple(replace(p, shake=moved) if p.id == plate_id else p for p in shot.plates))


def _drift(phrase: MotionPhrase, base: Drift, place: Place) -> Drift:
    return motion_phrase.strand_of(phrase, base.id, height=place.size[1], base=base, seconds=place.seconds)


def _fitted(strand: Strand, place: Place) -> Strand:
    """A drift in the course that holds its reach in the shot; other strands as they are."""
    if not isinstance(strand, Drift) or place.seconds is None:
        return strand
    return motion_phrase.with_fitting_seed(strand, place.rate, place.seconds)[0]


def _put(strand: Strand, place: Place, shot: Shot, *, beside: bool) -> Shot:
    """A shot moved by a strand alone, or besides."""
    strand = _fitted(strand, place)
    if not beside:
        return replace(shot, shake=Shake((strand,)))
    return replace(shot, shake=replace(shot.shake, strands=(*shot.shake.strands, strand)))


def _exchange(strand: Strand, place: Place, shot: Shot) -> Shot:
    """A shot with a strand in place of the one of its id."""
    strand = _fitted(strand, place)
    strands = tuple(strand if other.id == strand.id else other for other in shot.shake.strands)
    return replace(shot, shake=replace(shot.shake, strands=strands))
