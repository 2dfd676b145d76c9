"""Accompaniments of our own: drums, bass, chords and figures for one bar, drawn at random within a style.

All positions are in felt beats from the start of the bar. A style fixes what a band would agree on before it plays
(meter, feel, density, who plays); its patterns are drawn once for verse and once for chorus, so that they repeat.
"""

from dataclasses import dataclass, field

from harmony import chord_tones
from midi_notes import DRUMS, Note

KICK, SNARE, RIM, CLAP, CLOSED, OPEN, PEDAL, RIDE, CRASH, TAMBOURINE, SHAKER, LOW_TOM, HIGH_TOM, CONGA = (
    36, 38, 37, 39, 42, 46, 44, 51, 49, 54, 82, 45, 50, 63)

CHORD_PROGRAMS = [0, 1, 2, 4, 5, 6, 7, 11, 16, 18, 19, 21, 24, 25, 26, 27, 28, 29, 30, 46, 48, 49, 50, 51, 52, 61, 62, 81, 88, 89, 90, 94]
BASS_PROGRAMS = [32, 33, 34, 35, 36, 38, 39, 43, 58]
FIGURE_PROGRAMS = [0, 0, 0, 1, 4, 5, 6, 10, 11, 12, 24, 25, 26, 45, 46, 80, 81, 87]


@dataclass
class Style:
    beats: int
    feel: str
    divisions: list  # positions within a beat that may be played
    bpm: float
    meter: str
    drums: bool
    parts: list = field(default_factory=list)
    patterns: dict = field(default_factory=dict)


def draw_hard_style(rng):
    """Like draw_style, but only what is easily heard at half, twice or three times its tempo."""
    kind = rng.choice(["slow", "slow", "slow", "6/8", "12/8", "swing", "waltz", "slow waltz"])
    meter = {"6/8": "6/8", "12/8": "12/8", "waltz": "3/4", "slow waltz": "3/4"}.get(kind, "4/4")
    beats = {"6/8": 2, "3/4": 3}.get(meter, 4)
    bpm = {"slow": rng.uniform(50, 86), "6/8": rng.uniform(44, 84), "12/8": rng.uniform(46, 84), "swing": rng.uniform(150, 226),
           "waltz": rng.uniform(140, 200), "slow waltz": rng.uniform(60, 92)}[kind]
    feel = {"6/8": "compound", "12/8": "compound", "swing": "swing"}.get(kind, "straight")
    divisions = {"slow": rng.choice([[0, 0.25, 0.5, 0.75], [0, 0.25, 0.5, 0.75], [0, 0.5]]), "swing": [0, rng.uniform(0.58, 0.68)],
                 "waltz": [0, 0.5], "slow waltz": [0, 0.5]}.get(kind, [0, 1 / 3, 2 / 3])
    return line_up(Style(beats, feel, divisions, bpm, meter, rng.random() < 0.6), rng)


def draw_style(rng):
    """A meter, a feel, a tempo and a line-up that go together."""
    meter = rng.choices(["4/4", "3/4", "6/8", "12/8", "2/4", "5/4"], [60, 15, 7, 6, 7, 5])[0]
    beats = {"4/4": 4, "3/4": 3, "6/8": 2, "12/8": 4, "2/4": 2, "5/4": 5}[meter]
    if meter in ("6/8", "12/8"):
        feel, bpm = "compound", rng.uniform(44, 88)
    elif meter == "2/4":
        feel, bpm = "straight", rng.uniform(92, 136)
    elif meter == "3/4":
        feel, bpm = rng.choice(["straight", "straight", "swing"]), rng.uniform(78, 196)
    else:
        feel = rng.choices(["straight", "swing"], [4, 1])[0]
        bpm = rng.choices([rng.uniform(54, 80), rng.uniform(80, 126), rng.uniform(126, 184)], [3, 5, 2])[0]
    swing = rng.uniform(0.58, 0.68)
    if feel == "compound":
        divisions = [0, 1 / 3, 2 / 3]
    elif feel == "swing":
        divisions = [0, swing]
    elif bpm < 108 and rng.random() < 0.6:
        divisions = [0, 0.25, 0.5, 0.75]
    else:
        divisions = [0, 0.5]
    return line_up(Style(beats, feel, divisions, bpm, meter, rng.random() < 0.68), rng)


def line_up(style, rng):
    """The style with its parts and their patterns."""
    style.parts = draw_parts(style, rng)
    for label in ("verse", "chorus"):
        style.patterns[label] = draw_patterns(style, label, rng)
    if rng.random() < 0.4:
        style.patterns["chorus"]["drums"] = style.patterns["verse"]["drums"]
    return style


def draw_parts(style, rng):
    """Names of the pitched parts; without drums something else has to move."""
    parts = ["bass"] if rng.random() < (0.9 if style.drums else 0.6) else []
    movers = rng.sample(["comp", "figure", "strum"], rng.choice([1, 1, 2]))
    if rng.random() < 0.45:
        movers.append("pad")
    return parts + movers


def draw_patterns(style, label, rng):
    return {
        "drums": drum_pattern(style, label, rng) if style.drums else [],
        "bass": bass_pattern(style, rng),
        "comp": comp_pattern(style, rng),
        "strum": strum_pattern(style, rng),
        "figure": figure_pattern(style, rng),
        "programs": {"bass": rng.choice(BASS_PROGRAMS), "comp": rng.choice(CHORD_PROGRAMS), "pad": rng.choice([48, 49, 50, 52, 89, 91, 92, 94, 19]),
                     "strum": rng.choice([24, 25, 26, 27, 28, 30, 105]), "figure": rng.choice(FIGURE_PROGRAMS)},
    }


def drum_pattern(style, label, rng):
    """(position, key, velocity) of one bar."""
    beats, hits = style.beats, []
    add = lambda position, key, velocity: hits.append((position, key, velocity))
    sixteenths = len(style.divisions) == 4
    # Time keeper: what the right hand does.
    keeper = rng.choice([CLOSED, CLOSED, CLOSED, RIDE, SHAKER, TAMBOURINE] if label == "verse" else [CLOSED, RIDE, OPEN, TAMBOURINE])
    grain = rng.choices(["beat", "all", "off", "none"], [2, 6, 1, 1])[0]
    for beat in range(beats):
        for index, division in enumerate(style.divisions):
            if grain == "none" or (grain == "beat" and index) or (grain == "off" and division != style.divisions[len(style.divisions) // 2]):
                continue
            add(beat + division, keeper, (84 if index == 0 else 66 if not sixteenths or index == 2 else 52) + rng.randint(-6, 6))
    if rng.random() < 0.2:  # a jazz player's foot
        for beat in range(1, beats, 2):
            add(beat, PEDAL, 70)
    # Kick.
    kind = rng.choices(["floor", "pairs", "free", "one"], [2, 3, 4, 1])[0]
    if kind == "floor" and beats != 3:
        for beat in range(beats):
            add(beat, KICK, 108)
    else:
        add(0, KICK, 112)
        if beats == 4 and kind != "one" and rng.random() < 0.75:
            add(2, KICK, 102)
        if beats == 5 and rng.random() < 0.8:
            add(3, KICK, 102)
        if kind == "free":
            for beat in range(beats):
                for division in style.divisions[1:]:
                    if rng.random() < 0.17:
                        add(beat + division, KICK, 94)
    # Back beat.
    snare = rng.choice([SNARE, SNARE, SNARE, RIM, CLAP])
    if beats == 4:
        for beat in rng.choices([[1, 3], [2], [1, 2, 3], []], [12, 3, 1, 1])[0]:
            add(beat, snare, 106)
    elif beats == 3:
        for beat in rng.choice([[1, 2], [2], [1], []]):
            add(beat, snare, 92)
    elif beats == 2:
        add(1, snare, 104)
        if style.feel == "straight" and rng.random() < 0.5:
            for beat in range(2):
                add(beat + 0.5, rng.choice([snare, CLOSED]), 84)
    else:
        for beat in rng.choice([[2, 4], [1, 3], [4]]):
            add(beat, snare, 98)
    if rng.random() < 0.35:  # ghosts
        for beat in range(beats):
            for division in style.divisions[1:]:
                if rng.random() < 0.2:
                    add(beat + division, snare, 48)
    if rng.random() < 0.15:
        for beat in range(beats):
            for division in style.divisions:
                if rng.random() < 0.35:
                    add(beat + division, CONGA + rng.randint(-1, 1), 80)
    return hits


def bass_pattern(style, rng):
    """(position, length, chord tone index or 'walk', velocity) of one bar."""
    beats = style.beats
    kind = rng.choices(["whole", "roots", "walk", "eighths", "fifths", "free"], [2, 3, 2 if style.feel == "swing" else 1, 3, 2, 4])[0]
    if kind == "whole":
        return [(0, beats, 0, 96)]
    if kind == "roots":
        return [(b, 0.9, 0, 100 if b == 0 else 88) for b in range(beats)]
    if kind == "walk":
        return [(b, 0.95, 0 if b == 0 else "walk", 94) for b in range(beats)]
    if kind == "eighths":
        return [(b + d, 0.4, 0, 98 if d == 0 else 82) for b in range(beats) for d in style.divisions if d in (0, style.divisions[-1], 0.5)]
    if kind == "fifths":
        return [(0, 1, 0, 102)] + ([(beats / 2, 1, 2, 94)] if beats in (2, 4) else [(b, 0.9, 2, 86) for b in range(1, beats) if beats == 5 and b == 3])
    pattern = [(0, 1, 0, 102)]
    for b in range(beats):
        for d in style.divisions:
            if (b or d) and rng.random() < (0.3 if d == 0 else 0.22):
                pattern.append((b + d, 0.5, rng.choice([0, 0, 2, 1]), 88))
    return pattern


def comp_pattern(style, rng):
    """(position, length, velocity) of block chords in one bar."""
    beats = style.beats
    kind = rng.choices(["whole", "beats", "after", "off", "free"], [2, 4, 3, 2, 4])[0]
    if kind == "whole":
        return [(0, beats, 84)]
    if kind == "beats":
        return [(b, 0.85, 90 if b == 0 else 78) for b in range(beats)]
    if kind == "after":  # oom-pah, oom-pah-pah
        return [(b, 0.45, 82) for b in range(1, beats)] if beats != 4 else [(b, 0.45, 84) for b in (1, 3)]
    if kind == "off":
        return [(b + style.divisions[len(style.divisions) // 2], 0.3, 84) for b in range(beats)]
    pattern = [(0, 1, 86)] if rng.random() < 0.7 else []
    for b in range(beats):
        for d in style.divisions:
            if (b or d) and rng.random() < 0.25:
                pattern.append((b + d, 0.6, 78))
    return pattern or [(0, beats, 80)]


def strum_pattern(style, rng):
    """(position, length, velocity, down stroke) of a strummed guitar."""
    pattern = [(0, 0.9, 92, True)]
    for b in range(style.beats):
        for index, d in enumerate(style.divisions):
            if (b or index) and rng.random() < (0.85 if index == 0 else 0.5):
                pattern.append((b + d, 0.45, 84 if index == 0 else 68, index % 2 == 0))
    return pattern


def figure_pattern(style, rng):
    """(position, chord tone step) of a broken chord that runs through the bar."""
    shape = rng.choice([[0, 1, 2, 1], [0, 2, 1, 2], [0, 1, 2, 3], [3, 2, 1, 0], [0, 2, 3, 2, 1, 2], [0, 1, 2]])
    places = [b + d for b in range(style.beats) for d in style.divisions]
    if rng.random() < 0.3:
        places = [p for p in places if p == int(p) or rng.random() < 0.6]
    return [(place, shape[i % len(shape)]) for i, place in enumerate(places)]


def play_bar(style, label, chords, channels, drums_on, rng):
    """The notes of one bar; `chords` are one or two names, `channels` maps parts to MIDI channels."""
    patterns = style.patterns["chorus" if label == "chorus" else "verse"]
    notes = []
    chord_at = lambda position: chord_tones(chords[0] if len(chords) == 1 or position < style.beats / 2 else chords[1])
    if drums_on:
        notes += [Note(p, p + 0.1, DRUMS, key, max(20, min(127, velocity + rng.randint(-5, 5)))) for p, key, velocity in patterns["drums"]]
    for part in style.parts:
        channel = channels[part]
        if part == "bass":
            for position, length, degree, velocity in patterns["bass"]:
                tones = chord_at(position)
                tone = (rng.choice(tones) + rng.choice([0, 0, 1, -1])) if degree == "walk" else tones[min(degree, len(tones) - 1)]
                notes.append(Note(position, min(position + length, style.beats), channel, 28 + (tone - 28) % 12 + (12 if tone % 12 < 4 else 0), velocity))
        elif part == "pad":
            for start, name in enumerate(chords):
                begin, end = start * style.beats / len(chords), (start + 1) * style.beats / len(chords)
                notes += [Note(begin, end, channel, 55 + (t - 55) % 12, 70) for t in chord_tones(name)]
        elif part == "comp":
            for position, length, velocity in patterns["comp"]:
                notes += [Note(position, min(position + length, style.beats), channel, 57 + (t - 57) % 12, velocity) for t in chord_at(position)]
        elif part == "strum":
            for position, length, velocity, down in patterns["strum"]:
                keys = sorted(50 + (t - 50) % 12 for t in chord_at(position)) + [62 + (chord_at(position)[0] - 62) % 12]
                for order, key in enumerate(keys if down else keys[::-1]):
                    notes.append(Note(position + order * 0.008, min(position + length, style.beats), channel, key, velocity))
        else:
            for place, (position, step) in enumerate(patterns["figure"]):
                tones = sorted(48 + (t - 48) % 12 for t in chord_at(position))
                tones += [t + 12 for t in tones]
                accent = 88 if position == 0 else 80 if position == int(position) else 70
                notes.append(Note(position, position + 0.9 / len(style.divisions) + 0.3, channel, tones[step], accent))
    return notes


def play_fill(style, rng):
    """Drums over the last one or two beats of a phrase."""
    length = rng.choice([1, min(2, style.beats)])
    divisions = style.divisions if len(style.divisions) > 1 else [0, 0.5]
    return [Note(b + d, b + d + 0.1, DRUMS, rng.choice([SNARE, SNARE, LOW_TOM, HIGH_TOM]), rng.randint(80, 112))
            for b in range(style.beats - length, style.beats) for d in divisions if rng.random() < 0.85]
