"""Keys, chords and chord progressions."""

import re

KEYS = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]

DEGREES = ["C", "Dm", "Em", "F", "G", "Am", "C7", "F7", "G7", "Dm7", "Em7", "Am7", "CM7", "FM7", "Bb", "E7", "D", "A"]
LIKELY = [10, 5, 4, 9, 9, 8, 1, 1, 4, 3, 2, 3, 2, 2, 1, 1, 1, 1]


def split_chord(name):
    """'Dm7' -> (2, 'm7')."""
    root, quality = re.match(r"([A-G]b?)(.*)", name).groups()
    return KEYS.index(root), quality


def transpose(name, semitones):
    root, quality = split_chord(name)
    return KEYS[(root + semitones) % 12] + quality


def chord_tones(name):
    """Pitch classes of a chord, root first."""
    root, quality = split_chord(name)
    third = 3 if quality.startswith("m") else 4
    tones = [root, root + third, root + 7]
    if quality.endswith("7"):
        tones.append(root + (11 if "M7" in quality else 10))
    return [t % 12 for t in tones]


def progression(bars, rng):
    """One list of chords a bar, in C, beginning and usually ending at home; `bars` is 4 or 8."""
    chords = []
    rate = rng.choice([1, 1, 1, 2, 4])  # bars that a chord lasts; sometimes harmony stands still
    for bar in range(bars):
        if bar % rate and chords:
            chords.append([chords[-1][-1]])
            continue
        bar_chords = ["C" if bar == 0 and rng.random() < 0.7 else rng.choices(DEGREES, LIKELY)[0]]
        if rng.random() < 0.12:
            bar_chords.append(rng.choices(DEGREES, LIKELY)[0])
        chords.append(bar_chords)
    return chords
