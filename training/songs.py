"""A song to train on: its plan, its notes in beats, its tempo, and the truth that follows from them."""

import os
import subprocess
from dataclasses import dataclass
from functools import cache

import mido

import loud
import patterns
from grooves import find_grooves
from harmony import chord_tones, progression, transpose
from midi_notes import DRUMS, Note, read_midi

TEMPLATES = [
    "verse chorus verse chorus break chorus",
    "verse verse chorus break verse chorus",
    "chorus verse chorus break verse chorus",
    "verse chorus break chorus",
    "verse verse verse verse",
]
LEADS = [52, 53, 54, 85, 73, 65, 66, 56, 40, 41, 42, 80, 26, 29, 68, 71, 11, 0, 22, 75]


@dataclass
class Song:
    name: str
    meter: str
    beats_per_bar: int
    feel: str
    bpm: float
    bars: int
    sections: list  # dicts: label, bar (first), bars, drums, chords
    notes: list  # in felt beats from the first bar; negative = pickup
    controls: list
    pickup_beats: int
    driven: frozenset = frozenset()  # channels of guitars that go through drive and a cabinet
    sung: int = -1  # the channel of the voice


def plan_sections(beats, bpm, target_seconds, rng):
    """Sections that together last about `target_seconds`; chords in one key."""
    bar_seconds = beats * 60 / bpm
    size = min((4, 8, 16), key=lambda n: abs(n * bar_seconds - rng.choice([9, 14, 18])))
    key = rng.randrange(12)
    chords = {label: progression(rng.choice([4, 8]), rng) for label in ("verse", "chorus", "break")}
    labels = rng.choice(TEMPLATES).split()
    sections, bar = [], 0
    while bar * bar_seconds < target_seconds:
        label = "intro" if not sections and rng.random() < 0.7 else labels[len(sections) % len(labels)]
        bars = max(2, size // 2) if label in ("intro", "break") else size
        source = chords["verse" if label == "intro" else label]
        sections.append(dict(
            label=label, bar=bar, bars=bars,
            drums=rng.random() < 0.6 if label == "intro" else label != "break" or rng.random() < 0.4,
            chords=[[transpose(c, key) for c in source[i % len(source)]] for i in range(bars)]))
        bar += bars
    return sections, bar


def melody(sections, beats, divisions, channel, rng):
    """A lead over most sections: motifs of two bars that repeat, chord tones, breath at phrase ends."""
    density = rng.uniform(0.35, 0.75)
    late = rng.choice([0, 0, rng.uniform(0, 0.06)])  # singers lie back, in beats
    motifs, notes, pitch = {}, [], rng.randint(64, 76)
    for section in sections:
        if section["label"] in ("intro", "break"):
            continue
        if section["label"] not in motifs:
            slots = [b + d for b in range(2 * beats) for d in divisions if rng.random() < (density if d == 0 else density * 0.5)]
            motifs[section["label"]] = slots or [0]
        onsets = motifs[section["label"]]
        for pair in range(0, section["bars"], 2):
            for slot, after in zip(onsets, onsets[1:] + [2 * beats]):
                bar = pair + int(slot // beats)
                if bar >= section["bars"] or (pair % 8 == 6 and bar % 2 == 1 and slot % beats >= 1):
                    continue
                tones = chord_tones(section["chords"][bar][0])
                near = [p for p in range(57, 86) if (p % 12 in tones or rng.random() < 0.15) and 0 < abs(p - pitch) <= 7]
                pitch = rng.choice(near or [70])
                start = (section["bar"] + pair) * beats + slot + late
                notes.append(Note(start, start + min(after - slot, 2) * 0.92, channel, pitch, rng.randint(74, 108)))
    return notes


def own_song(name, target_seconds, rng, hard):
    """A song from our own patterns."""
    style = (patterns.draw_hard_style if hard else patterns.draw_style)(rng)
    sections, bars = plan_sections(style.beats, style.bpm, target_seconds, rng)
    channels = {part: i for i, part in enumerate(style.parts)}
    controls, notes = [], []
    for section in sections:
        programs = style.patterns["chorus" if section["label"] == "chorus" else "verse"]["programs"]
        for part, channel in channels.items():
            start = section["bar"] * style.beats
            controls.append((max(0, start - 0.01), mido.Message("program_change", channel=channel, program=programs[part])))
        loud = {"chorus": 1.0, "verse": 0.88, "intro": 0.8, "break": 0.68}[section["label"]]
        for i, chords in enumerate(section["chords"]):
            first = (section["bar"] + i) * style.beats
            drums_on = style.drums and section["drums"]
            bar_notes = patterns.play_bar(style, section["label"], chords, channels, drums_on, rng)
            if drums_on and i == 0 and rng.random() < 0.6:
                bar_notes.append(Note(0, 0.1, DRUMS, patterns.CRASH, 104))
            if drums_on and (i == section["bars"] - 1 or (i % 4 == 3 and rng.random() < 0.3)) and rng.random() < 0.7:
                bar_notes = [n for n in bar_notes if n.channel != DRUMS or n.start < style.beats - 1] + patterns.play_fill(style, rng)
            for n in bar_notes:
                notes.append(Note(n.start + first, n.end + first, n.channel, n.key, max(18, min(127, round(n.velocity * loud)))))
    song = Song(name, style.meter, style.beats, style.feel, style.bpm, bars, sections, notes, controls, 0)
    return add_lead_and_end(song, style.divisions, rng)


def loud_song(name, target_seconds, rng):
    """A song of a loud band, most of them with a singer."""
    bpm = rng.uniform(loud.SLOWEST_BPM, loud.FASTEST_BPM)
    sections, bars = plan_sections(4, bpm, target_seconds, rng)
    notes, controls, driven = loud.loud_notes(sections, bpm, rng)
    song = Song(name, "4/4", 4, "straight", bpm, bars, sections, notes, controls, 0, frozenset(driven))
    if rng.random() < 0.6:
        song.sung = 5
        song.notes += melody(sections, 4, [0, 0.5], song.sung, rng)
    return song


def arranged_song(name, groove, target_seconds, rng, folder):
    """A song that the arranger (Debian's mma) plays from one of its grooves."""
    bpm = rng.uniform(groove.slowest, groove.fastest)
    sections, bars = plan_sections(groove.beats, bpm, target_seconds, rng)
    quiet, loud = rng.choice(groove.mains), rng.choice(groove.mains)
    volume = {"intro": "mp", "verse": "m", "chorus": "f", "break": "p"}
    lines, bar = [f"RndSeed {rng.randrange(10 ** 6)}", f"Tempo {bpm * groove.quarter:.2f}"], 1
    for section in sections:
        lines += [f"Groove {loud if section['label'] == 'chorus' else quiet}", "AllTracks RTime 0", f"Volume {volume[section['label']]}"]
        for i, chords in enumerate(section["chords"]):
            if groove.fills and i == section["bars"] - 1 and section["drums"]:
                lines += [f"Groove {rng.choice(groove.fills)}", "AllTracks RTime 0"]
            if len(chords) > 1 and groove.beats * groove.quarter == 4:
                lines.append(f"{bar} {chords[0]} / {chords[1]} /")
            else:
                lines.append(f"{bar} {chords[0]}")
            bar += 1
    source, target = folder / "song.mma", folder / "song.mid"
    source.write_text("\n".join(lines) + "\n")
    done = subprocess.run(["mma", str(source), "-f", str(target)], capture_output=True, text=True, env={**os.environ, "PYTHONHASHSEED": "0"})
    if done.returncode or not target.exists():
        raise RuntimeError(f"{groove.name}: the arranger failed: {done.stdout[-300:]}")
    notes, controls = read_midi(target, 1 / groove.quarter)
    end = bars * groove.beats
    silent = [(s["bar"] * groove.beats, (s["bar"] + s["bars"]) * groove.beats) for s in sections if not s["drums"]]
    bare = rng.random() < 0.12
    notes = [n for n in notes if n.start < end and not (n.channel == DRUMS and (bare or any(a <= n.start < b for a, b in silent)))]
    for n in notes:
        n.end = min(n.end, end)
    divisions = {"straight": [0, 0.5], "swing": [0, 2 / 3], "compound": [0, 1 / 3, 2 / 3]}[groove.feel]
    song = Song(name, groove.meter, groove.beats, groove.feel, bpm, bars, sections, notes, controls, 0)
    return add_lead_and_end(song, divisions, rng)


def add_lead_and_end(song, divisions, rng):
    """Lead voice, pickup and last chord, on channels that are still free."""
    used = {n.channel for n in song.notes} | {m.channel for _, m in song.controls}
    lead, piano = [c for c in range(16) if c not in used and c != DRUMS][:2]
    first_chord = song.sections[0]["chords"][0][0]
    song.controls += [(0, mido.Message("program_change", channel=lead, program=rng.choice(LEADS))),
                      (0, mido.Message("program_change", channel=piano, program=rng.choice([0, 4, 48, 25])))]
    if rng.random() < 0.7:
        song.notes += melody(song.sections, song.beats_per_bar, divisions, lead, rng)
    if rng.random() < 0.15:
        song.pickup_beats = 1 if song.beats_per_bar < 4 else rng.choice([1, 2])
        tones = [p for p in range(64, 80) if p % 12 in chord_tones(first_chord)]
        onsets = [k / 2 - song.pickup_beats for k in range(2 * song.pickup_beats) if k % 2 == 0 or rng.random() < 0.5]
        song.notes += [Note(a, b - 0.02, lead, rng.choice(tones), 96) for a, b in zip(onsets, onsets[1:] + [0])]
    if rng.random() < 0.8:
        end, tones = song.bars * song.beats_per_bar, chord_tones(first_chord)
        keys = [36 + tones[0]] + [60 + t for t in tones[:3]]
        song.notes += [Note(end, end + 2, piano, k, 95) for k in keys]
        if any(n.channel == DRUMS for n in song.notes):
            song.notes += [Note(end, end + 0.2, DRUMS, k, 100) for k in (patterns.KICK, patterns.CRASH)]
    return song


def tempo_factors(song, rng):
    """Tempo of each felt beat (pickup first) relative to the song's, and what kind of change it is."""
    beats = song.pickup_beats + song.bars * song.beats_per_bar
    starts = [s["bar"] * song.beats_per_bar + song.pickup_beats for s in song.sections]
    weights = [80, 12, 4, 2, 2, 0] if song.driven else [44, 24, 8, 9, 5, 10]
    kind = rng.choices(["constant", "drift", "step", "rit", "accel", "phrases"], weights)[0]
    if kind == "drift":
        factors, x, velocity, wide = [], 0.0, 0.0, rng.choice([0.002, 0.004, 0.006])
        for _ in range(beats):
            velocity = 0.8 * velocity + rng.gauss(0, wide)
            x = max(-0.05, min(0.05, 0.97 * x + velocity))
            factors.append(1 + x)
    elif kind == "step":
        ratio, at = rng.uniform(0.8, 1.25), rng.choice(starts)
        factors = [1.0 if b < at else ratio for b in range(beats)]
    elif kind == "rit":
        last = rng.choice([2, 4]) * song.beats_per_bar
        factors = [1.0 if beats - b > last else 0.62 + 0.38 * (beats - b) / last for b in range(beats)]
    elif kind == "accel":
        rise = rng.uniform(-0.18, 0.2)
        factors = [1 + rise * b / beats for b in range(beats)]
    elif kind == "phrases":  # a pianist breathing: slower towards every section's end
        depth, factors = rng.uniform(0.05, 0.2), []
        for b in range(beats):
            left = min([s - b for s in starts + [beats] if s > b], default=99)
            factors.append(1 - depth * max(0, 1 - (left - 1) / song.beats_per_bar))
    else:
        factors = [1.0] * beats
    return factors, kind


def beat_clock(song, factors, first_beat_seconds):
    """A function from felt beats (0 = first bar, negative = pickup) to seconds."""
    times = [first_beat_seconds]
    for factor in factors:
        times.append(times[-1] + 60 / (song.bpm * factor))

    def seconds(beat):
        at = beat + song.pickup_beats
        whole = max(0, min(len(factors) - 1, int(at)))
        return times[whole] + (at - whole) * (times[whole + 1] - times[whole])

    return seconds


def free_notes(seconds, rng, channel=0):
    """Broken chords without a pulse: notes in seconds."""
    notes, t, chords = [], 0.05, progression(8, rng)
    for i in range(10000):
        tones = chord_tones(chords[i % 8][0])
        for key in [48 + tones[0]] + sorted(60 + x for x in tones[:3]):
            if t > seconds - 0.8:
                return notes
            notes.append(Note(t, t + 2, channel, key, rng.randint(50, 84)))
            t += rng.uniform(0.1, 0.75)
        t += rng.uniform(0.2, 1.4)
    return notes


# From this number on, all songs are such as are easily heard at half, twice or three times their tempo.
FIRST_HARD = 1020
# From this number on, our own synthesizer plays, and two in three songs are hard.
FIRST_OWN_SOUND = 1245
# From this number on, all songs are played by loud bands.
FIRST_LOUD = 1355


@cache
def grooves(hard):
    return [g for g in find_grooves() if not hard or g.fastest <= 90 or g.slowest >= 150 or g.meter.endswith("/8")]


def make_song(index, rng, folder):
    """Song number `index`: every other one arranged from the library, the rest from our own patterns."""
    hard = index >= FIRST_HARD and (index < FIRST_OWN_SOUND or index % 3 > 0)
    target = rng.uniform(34, 64)
    if index >= FIRST_LOUD:
        return loud_song(f"loud{index:04d}", target, rng)
    if index % 2:
        return own_song(f"own{index:04d}", target, rng, hard)
    choice = grooves(hard)
    groove = choice[(index // 2) % len(choice)]
    return arranged_song(f"arr{index:04d}_{groove.name}", groove, target, rng, folder)
