"""Loud bands: drum patterns that change by section, riffs for driven guitars, half-time passages and breakdowns.

All positions are in felt beats from the start of the bar. The pulse goes on through half-time and double-time drums.
"""

import mido

from harmony import chord_tones
from midi_notes import DRUMS, Note
from patterns import CLAP, CLOSED, CRASH, HIGH_TOM, KICK, LOW_TOM, OPEN, RIDE, SNARE

GUITARS = [29, 30, 29, 30, 27, 81, 87]
LEADS = [29, 30, 80, 81, 48, 62]
SLOWEST_BPM, FASTEST_BPM = 84, 205

# What a drummer plays: kick and snare in a bar of four, and from what to what tempo that can be played.
GROOVES = {
    "rock": ([0, 2], [1, 3], 0, 999),
    "rock with eighths": ([0, 0.5, 2, 2.5], [1, 3], 0, 999),
    "syncopated": ([0, 1.5, 2.5], [1, 3], 0, 999),
    "broken": ([0, 0.75, 2.5], [1, 2.25, 3], 0, 150),
    "floor": ([0, 1, 2, 3], [1, 3], 0, 999),
    "floor without snare": ([0, 1, 2, 3], [], 0, 999),
    "snare on every off-beat": ([0, 1, 2, 3], [0.5, 1.5, 2.5, 3.5], 120, 999),
    "snare on every beat": ([0.5, 1.5, 2.5, 3.5], [0, 1, 2, 3], 110, 999),
    "double bass in eighths": ([k / 2 for k in range(8)], [1, 3], 0, 999),
    "double bass in sixteenths": ([k / 4 for k in range(16)], [1, 3], 84, 180),
    "double bass, half time": ([k / 4 for k in range(16)], [2], 84, 180),
    "blast in sixteenths": ([k / 2 for k in range(8)], [k / 2 + 0.25 for k in range(8)], 84, 140),
    "blast in eighths": ([k / 2 for k in range(8)], [k / 2 for k in range(8)], 110, 999),
    "half time": ([0, 0.5], [2], 0, 999),
    "half time, syncopated": ([0, 1.5, 2.75], [2], 0, 170),
    "toms": ([0, 2], [], 0, 999),
    "shuffle of sixteenths": ([0, 2], [k / 4 for k in range(16)], 84, 140),
}
RIFFS = {
    "eighths": [k / 2 for k in range(8)],
    "sixteenths": [k / 4 for k in range(16)],
    "gallop": [b + d for b in range(4) for d in (0, 0.5, 0.75)],
    "held": [0],
    "two chords": [0, 2],
    "syncopated": [0, 0.75, 1.5, 2.5, 3],
    "off-beats": [0.5, 1.5, 2.5, 3.5],
    "pushed": [0, 1.5, 3.5],
    "beats": [0, 1, 2, 3],
}


def draw_bar_plan(bpm, label, rng):
    """What the band plays in all bars of a section of this label."""
    kicks, snares, _, _ = rng.choice([g for g in GROOVES.values() if g[2] <= bpm <= g[3]])
    drums = "full"
    if label == "break":
        drums = rng.choice(["full", "none", "kick", "hats"])
    elif label == "intro":
        drums = rng.choice(["full", "full", "none", "hats"])
    fast = bpm > 150
    riffs = [name for name in RIFFS if not (fast and name in ("sixteenths", "gallop") and rng.random() < 0.7)]
    return dict(kicks=kicks, snares=snares, drums=drums, riff=RIFFS[rng.choice(riffs)], bass=RIFFS[rng.choice(["eighths", "eighths", "held", "syncopated", "beats"])],
                keeper=rng.choice([CLOSED, CLOSED, OPEN, RIDE, CRASH]), grain=rng.choice([1, 1, 2, 2, 2, 4 if bpm < 130 else 2, 0]),
                off_hats=rng.random() < 0.15, snare=rng.choice([SNARE, SNARE, SNARE, CLAP]), toms=not snares and rng.random() < 0.5)


def drum_bar(plan, first, rng):
    """Drums of one bar; a cymbal where a section begins."""
    hits = []
    add = lambda position, key, velocity: hits.append(Note(position, position + 0.1, DRUMS, key, max(20, min(127, velocity + rng.randint(-5, 5)))))
    if plan["drums"] in ("full", "kick"):
        for k in plan["kicks"]:
            add(k, KICK, 112 if k == int(k) else 104)
    if plan["drums"] == "full":
        for s in plan["snares"]:
            add(s, plan["snare"], 112 if s == int(s) or len(plan["snares"]) < 9 else 80)
        if plan["toms"]:
            for k in range(8):
                add(k / 2, LOW_TOM if k % 4 < 3 else HIGH_TOM, 100 if k % 2 == 0 else 84)
    if plan["drums"] in ("full", "hats"):
        if plan["off_hats"]:
            for b in range(4):
                add(b + 0.5, OPEN, 96)
        else:
            for k in range(4 * plan["grain"]):
                add(k / plan["grain"], plan["keeper"], 96 if k % plan["grain"] == 0 else 78)
    if first and plan["drums"] != "none" and rng.random() < 0.8:
        add(0, CRASH, 116)
    return hits


def fill(rng):
    """Sixteenths or eighths over the last one or two beats, sometimes over the whole bar."""
    length, step = rng.choice([1, 1, 2, 4]), rng.choice([0.25, 0.5])
    count = int(length / step)
    return length, [Note(4 - length + k * step, 4 - length + k * step + 0.1, DRUMS, rng.choice([SNARE, SNARE, LOW_TOM, HIGH_TOM]), rng.randint(92, 118)) for k in range(count)]


def riff_bar(places, chord, channel, low, ringing, rng):
    """Root, fifth and octave of the chord at these places; short ones are damped with the hand."""
    root = low + (chord_tones(chord)[0] - low) % 12
    notes = []
    for start, end in zip(places, places[1:] + [4]):
        length = (end - start) * (0.98 if ringing or end - start > 0.5 else 0.55)
        velocity = 112 if start == int(start) else 98
        notes += [Note(start, start + length, channel, root + k, velocity + rng.randint(-6, 6)) for k in (0, 7, 12)]
    return notes


def loud_notes(sections, bpm, rng):
    """(notes, controls, channels of the driven guitars) of all sections, in felt beats of 4/4."""
    plans = {label: draw_bar_plan(bpm, label, rng) for label in ("intro", "verse", "chorus", "break")}
    if rng.random() < 0.4:  # the second verse is played otherwise
        plans["second verse"] = draw_bar_plan(bpm, "verse", rng)
    left, right, bass, lead = 0, 1, 2, 3
    programs = {left: rng.choice(GUITARS), right: rng.choice(GUITARS), bass: rng.choice([33, 34, 36, 38]), lead: rng.choice(LEADS)}
    controls = [(0, mido.Message("program_change", channel=c, program=p)) for c, p in programs.items()]
    notes, seen, has_lead = [], set(), rng.random() < 0.5
    for section in sections:
        label = section["label"]
        plan = plans["second verse"] if label in seen and label == "verse" and "second verse" in plans else plans[label]
        seen.add(label)
        ringing = label == "chorus" and rng.random() < 0.6
        for i, chords in enumerate(section["chords"]):
            bar = drum_bar(plan, i == 0, rng)
            if plan["drums"] == "full" and (i == section["bars"] - 1 or (i % 4 == 3 and rng.random() < 0.3)) and rng.random() < 0.7:
                length, filled = fill(rng)
                bar = [n for n in bar if n.start < 4 - length] + filled
            chord = chords[-1] if i % 2 and rng.random() < 0.3 else chords[0]
            bar += riff_bar(plan["riff"], chord, left, 40, ringing, rng)
            if label != "verse" or rng.random() < 0.7:
                bar += riff_bar(plan["riff"], chord, right, 45, ringing, rng)
            root = 28 + (chord_tones(chord)[0] - 28) % 12
            bar += [Note(a, b - 0.05, bass, root, 108) for a, b in zip(plan["bass"], plan["bass"][1:] + [4])]
            if has_lead and label in ("chorus", "break"):
                tones = [60 + t % 12 for t in chord_tones(chord)]
                bar += [Note(k / 2, k / 2 + 0.5, lead, rng.choice(tones) + 12, 100) for k in range(8) if rng.random() < 0.55]
            first = (section["bar"] + i) * 4
            notes += [Note(n.start + first, n.end + first, n.channel, n.key, n.velocity) for n in bar]
    return notes, controls, {left, right}
