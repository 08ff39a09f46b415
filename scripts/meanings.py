"""What each number of a project means, in the words of its page: by type and field, (unit, meaning).

``scripts/tables.py`` joins it with the limits; the tests see that no number is left out, and none stands here that
is gone.
"""

from __future__ import annotations

#: Types under the headings of the page, in the order of work.
HEADINGS: dict[str, tuple[str, ...]] = {
    "A shake": ("Shake", "Preset", "Stretch", "Region"),
    "Drift": ("Drift", "DriftChannel", "Wander", "Rests", "Corrections", "Steps"),
    "Blows": ("Hit", "Jolts", "Smear", "Knock", "Afterimages"),
    "Takes": ("Take", "Taken", "Gains", "Endless"),
    "Plotted motion and shimmer": ("Plotted", "Shimmer"),
    "The frame": ("FrameSettings", "Shutter", "Box", "Point"),
    "Shots, plates and titles": ("Shot", "Size", "Plate", "Placement", "Title", "Depth", "Ramp", "Raised"),
    "Spans": ("Span", "Over", "Later"),
    "Sound": ("Mix", "Rumble", "Knocks", "Layer", "SoundSway"),
    "Curves": ("Key", "Curve"),
    "Preferences": ("Settings",),
}

MEANINGS: dict[str, dict[str, tuple[str, str]]] = {
    "Shake": {
        "intensity": ("factor", "how much of the whole shake; 0 is stillness"),
        "pace": ("factor", "how fast time runs for drifts and takes; 0 holds where it is"),
        "begins": ("s", "how far its clock has run when the shot begins"),
    },
    "Preset": {"focal_mm": ("mm", "the focal length it was made for")},
    "Stretch": {
        "start": ("s", "from where in the shot a strand acts"), "end": ("s", "to where"),
        "fade_in": ("s", "how long it takes to come"), "fade_out": ("s", "how long to go"),
    },
    "Region": {
        "width": ("frame heights", "of the part of the picture that moves"), "height": ("frame heights", "of it"),
        "feather": ("frame heights", "over how far the motion dies away beyond it"),
    },
    "Drift": {
        "amount": ("factor", "multiplies every reach; 1 is as saved"),
        "rate": ("a second", "expected upward crossings of the middle, roughness included"),
        "roughness": ("0 to 1", "how much tremor lies over it, up to 12 Hz or four times the rate"),
        "regularity": ("0 to 1", "1 is one even swing, 0 a broad band that never repeats"),
        "seed": ("", "which course it takes; nothing else depends on it"),
        "step": ("a second", "positions that are each held, as of animation on twos; 0 moves on"),
        "lean": ("−1 to 1", "the zoom goes only out, both ways, only in"),
        "ease_in": ("s", "how long it takes out of stillness"),
        "holds": ("s", "over how many seconds of this shot the reach is exact; 0: over an endless course"),
        "rule": ("", "by which version it is worked out: older projects keep theirs"),
    },
    "DriftChannel": {
        "reach": ("% of height, °", "95 of 100 moments lie within plus and minus this; turns in °, zoom in %"),
        "rate": ("factor", "on the strand's rate"),
        "regularity": ("0 to 1", "of this channel, in place of the strand's"),
        "roughness": ("0 to 1", "likewise"), "phase": ("°", "by which its even part is ahead of the strand's"),
    },
    "Wander": {
        "depth": ("log of a factor", "how much its size comes and goes, the reach kept"),
        "rate": ("a second", "how often"),
    },
    "Rests": {
        "share": ("0 to 1", "of the time that it is really still"), "hold": ("s", "how long a rest typically lasts"),
    },
    "Corrections": {
        "size": ("times the reach", "how far the framing is put right, as a hand does now and then"),
        "rate": ("a minute", "how often"),
        "long": ("s", "how long one takes"),
    },
    "Steps": {
        "length": ("share", "by which steps differ in time"), "size": ("share", "by which they differ in size"),
        "uneven": ("share", "by which left differs from right"), "strike": ("factor", "how hard a heel lands"),
    },
    "Hit": {"t": ("s", "when, from the shot's first frame"), "strength": ("factor", "how hard; 1 is the norm")},
    "Jolts": {
        "amount": ("factor", "multiplies all of it"),
        "reach": ("% of height", "the largest shift of one hit of strength 1"),
        "roll": ("°", "its largest turn"), "zoom": ("%", "its largest change of size"),
        "ring": ("a second", "how often it swings"), "settle": ("s", "until a third (1/e) is left"),
        "rise": ("s", "how soon it is there (1/e)"), "rattle": ("0 to 1", "how much noise there is in the swing"),
        "tail": ("0 to 1", "how much of it dies away four times as slowly"),
        "phase": ("°", "where in its swing it begins: 0 at rest, 90 with a push"),
        "direction": ("°", "of the largest swing: 0 right, 90 down"),
        "delay": ("s", "by which it comes after the hit"), "distance": ("m", "of the blow: later by 343 m/s"),
        "seed": ("", "which course it takes"), "rule": ("", "by which version it is worked out"),
    },
    "Smear": {
        "frames": ("frames", "from a hit on that are drawn out"), "length": ("% of height", "how far, at strength 1"),
        "angle": ("°", "which way; 0 right, 90 down"), "fall": ("0 to 1", "whether it stays or dies away"),
    },
    "Knock": {
        "frames": ("frames", "from a hit on that are out of focus"),
        "softness": ("% of height", "how far a point spreads (standard deviation), at strength 1"),
    },
    "Afterimages": {
        "count": ("", "fading copies under the motion of a moment ago"), "lag": ("s", "from one to the next"),
        "opacity": ("0 to 1", "of each against the one before"),
    },
    "Take": {
        "width": ("pixels", "of the clip that was measured"), "height": ("pixels", "of it"),
        "focal_mm": ("mm", "it was filmed at"),
    },
    "Taken": {
        "amount": ("factor", "multiplies the take; 1 is as measured"),
        "cutoff": ("s", "what is slower than this is left out; 0 keeps the whole move"),
        "start": ("s", "from where of the take"),
        "end": ("s", "to where"),
        "offset": ("s", "by which it begins before the shot"),
        "fade": ("s", "over which a loop is crossfaded"),
        "seed": ("", "which course it takes when it goes on by itself"),
    },
    "Gains": {
        "x": ("factor", "on the take's shift across"), "y": ("factor", "on its shift down"),
        "roll": ("factor", "on its turn"), "zoom": ("factor", "on its change of size"),
    },
    "Endless": {"every": ("s", "from one correction of the framing to the next, as learned")},
    "Plotted": {
        "amount": ("factor", "multiplies it"), "x": ("% of height", "across, as drawn"), "y": ("% of height", "down"),
        "roll": ("°", "turned"), "zoom": ("%", "larger"), "irregular": ("0 to 1", "how much repeats differ"),
        "seed": ("", "which course the repeats take"),
    },
    "Shimmer": {
        "amount": ("factor", "multiplies it"), "x": ("% of height", "how far points go across"),
        "y": ("% of height", "and down"), "size": ("% of height", "of what trembles together"),
        "speed": ("a second", "how fast it changes"), "octaves": ("", "how many finer ones lie over it"),
        "seed": ("", "which course it takes"),
    },
    "FrameSettings": {
        "crop": ("factor", "by hand; what the edges ask for comes on top"),
        "focal_mm": ("mm", "for a sensor 36 mm wide: what a turn does"),
        "breathe": ("s", "over which a crop as needed comes and goes"),
        "readout": ("s", "from the first row to the last of a rolling shutter"),
    },
    "Shutter": {
        "angle": ("°", "how long it is open; 360 is the whole frame"),
        "phase": ("°", "by which its middle is late"),
    },
    "Box": {
        "x": ("share of width", "left edge of what must stay clear"), "y": ("share of height", "its top"),
        "width": ("share of width", "its width"), "height": ("share of height", "its height"),
    },
    "Point": {"x": ("frame heights", "right of the middle"), "y": ("frame heights", "below it")},
    "Shot": {"start": ("s", "where in the footage it begins"), "end": ("s", "where it ends")},
    "Size": {"width": ("pixels", "delivered"), "height": ("pixels", "delivered")},
    "Plate": {
        "share": ("factor", "of the shot's shake that it takes"),
        "distance": ("factor", "how far away it is: travel is divided by it, turns are not"),
        "offset": ("s", "by which its own time begins later"),
    },
    "Placement": {
        "x": ("frame heights", "right of the middle"), "y": ("frame heights", "below it"),
        "size": ("factor", "on its fitted size"),
        "angle": ("°", "turned right"),
        "opacity": ("0 to 1", "how solid it is"),
    },
    "Title": {
        "size": ("% of height", "of the letters"), "outline": ("% of the size", "of the line round them"),
        "shadow": ("0 to 1", "how dark it is"), "shadow_far": ("% of the size", "how far it falls"),
        "shadow_soft": ("% of the size", "how soft it is"),
        "tracking": ("thousandths of the size", "between letters"),
        "leading": ("% of the size", "from line to line"), "differ": ("0 to 1", "by how much its parts differ"),
    },
    "Depth": {"near": ("factor", "distance of what is white"), "far": ("factor", "distance of what is black")},
    "Ramp": {
        "angle": ("°", "which way it gets nearer"), "start": ("frame heights", "where it begins"),
        "end": ("frame heights", "where it ends"),
    },
    "Raised": {"near": ("0 to 1", "how near the shape is")},
    "Span": {
        "start": ("s", "of the reel, where it begins"), "end": ("s", "where it ends"),
        "fade_in": ("s", "how long it takes to come"), "fade_out": ("s", "how long to go"),
    },
    "Over": {"at": ("s", "of the reel at which a shot under a span begins")},
    "Later": {"value": ("", "of a curve that was moved along"), "begins": ("s", "by how far")},
    "Mix": {"level": ("dB", "of the footage's own sound")},
    "Rumble": {
        "level": ("dB", "how loud"), "tone": ("Hz", "about which it lies"), "spread": ("octaves", "how wide it is"),
        "roughness": ("0 to 1", "how broken it is above"),
        "hum": ("0 to 1", "how much of a held tone, as of an engine"),
        "width": ("0 to 1", "how much the sides differ"), "attack": ("s", "in which it swells (1/e)"),
        "release": ("s", "in which it dies away (1/e)"), "seed": ("", "which course the noise takes"),
    },
    "Knocks": {
        "level": ("dB", "how loud"),
        "pitch": ("Hz", "at which the body rings"),
        "fall": ("octaves", "from how far above"),
        "decay": ("s", "for which it rings (1/e)"), "bright": ("0 to 1", "how much of its upper tones"),
        "click": ("0 to 1", "of the first moment"), "room": ("0 to 1", "how much of a room"),
        "reverb": ("s", "until that is gone (60 dB)"), "delay": ("s", "besides what the jolts come late by"),
        "differ": ("0 to 1", "how much no two of them are alike"), "seed": ("", "which course that takes"),
    },
    "Layer": {
        "level": ("dB", "how loud"), "offset": ("s", "where in the shot it begins"),
        "fade": ("s", "over which its ends are crossfaded when it goes round"),
    },
    "SoundSway": {
        "level": ("± dB", "by which the sound trembles with the speed of the motion"),
        "balance": ("0 to 1", "how far its place follows the picture"),
    },
    "Key": {
        "t": ("s", "when"),
        "value": ("the number's", "what it is there"),
        "slope_in": ("a second", "of its tangent before"),
        "slope_out": ("a second", "of its tangent after"),
    },
    "Curve": {"value": ("the number's", "where it has no keys")},
    "Settings": {
        "volume": ("0 to 1", "of the desk"), "tap_lag": ("s", "by which tapped hits come late"),
        "autosave": ("s", "after which unsaved work is kept"),
    },
}
