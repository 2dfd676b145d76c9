"""A small synthesizer of our own, so that the network does not learn the sound of three soundfonts by heart.

Every song gets other instruments: random waveforms with random envelopes, drums of sine sweeps and filtered noise.
"""

import numpy as np
from scipy.signal import butter, lfilter

from midi_notes import DRUMS

RATE = 44100
TABLE = 2048


def instrument(rng):
    """(waveform table, attack, decay and release in seconds, sustain level, vibrato depth in semitones)."""
    harmonics = rng.choice([1, 3, 6, 12, 24])
    slope = rng.uniform(0.5, 2.2)
    phase = np.arange(TABLE) * 2 * np.pi / TABLE
    table = sum(rng.uniform(0.2, 1) / h ** slope * np.sin(h * phase + rng.uniform(0, 6)) for h in range(1, harmonics + 1) if rng.random() < 0.85 or h == 1)
    return table / np.abs(table).max(), rng.choice([0.002, 0.005, 0.01, 0.03, 0.06]), rng.uniform(0.08, 1.5), rng.uniform(0.02, 0.3), rng.choice([0, 0.2, 0.7, 1]), rng.choice([0, 0, 0.15, 0.4])


def tone(note, sound):
    table, attack, decay, release, sustain, vibrato = sound
    length = int((max(0.05, note.end - note.start) + release) * RATE)
    t = np.arange(length) / RATE
    hz = 440 * 2 ** ((note.key - 69) / 12)
    phase = hz * t + (hz * vibrato * 0.06 * -np.cos(2 * np.pi * 5.5 * t) / (2 * np.pi * 5.5) if vibrato else 0)
    body = table[(phase * TABLE).astype(np.int64) % TABLE]
    envelope = np.minimum(1, t / attack) * (sustain + (1 - sustain) * np.exp(-t / decay))
    end = length - int(release * RATE)
    envelope[end:] *= np.exp(-np.arange(length - end) / RATE / (release / 4))
    return body * envelope * (note.velocity / 127) ** 1.5 * 0.2


def drum_kit(rng, noise):
    """A sound for each key of the kit, made once a song."""
    kit = {}

    def swept(start, end, seconds):
        t = np.arange(int(seconds * 5 * RATE)) / RATE
        return np.sin(2 * np.pi * (end * t + (start - end) * 0.03 * (1 - np.exp(-t / 0.03)))) * np.exp(-t / seconds)

    def hiss(low, high, seconds):
        t = np.arange(int(seconds * 5 * RATE)) / RATE
        return lfilter(*butter(2, [low / (RATE / 2), high / (RATE / 2)], "band"), noise.standard_normal(len(t))) * np.exp(-t / seconds)

    kick = swept(rng.uniform(120, 220), rng.uniform(42, 62), rng.uniform(0.05, 0.14))
    snare = 0.6 * hiss(900, rng.uniform(6000, 12000), rng.uniform(0.04, 0.1))
    body = swept(260, rng.uniform(160, 210), 0.05)
    snare[: len(body)] += 0.5 * body[: len(snare)]
    hat = 0.35 * hiss(rng.uniform(5000, 7500), 15000, rng.uniform(0.012, 0.04))
    ring = 0.3 * hiss(rng.uniform(3500, 6000), 15000, rng.uniform(0.2, 0.6))
    for key in range(128):
        kit[key] = hat
    kit.update({35: kick, 36: kick, 38: snare, 40: snare, 37: 0.6 * swept(900, 700, 0.02), 39: 0.7 * hiss(1000, 4000, 0.05), 46: ring, 49: ring, 51: 0.6 * ring,
                57: ring, 59: 0.6 * ring, 70: hat, 82: 0.5 * hat})
    for key in (41, 43, 45, 47, 48, 50, 60, 61, 62, 63, 64):
        kit[key] = 0.7 * swept(90 + 9 * (key - 40) + 60, 70 + 8 * (key - 40), 0.12)
    return kit


def play(notes, end_seconds, rng, noise):
    """Mono samples of notes given in seconds; a sound begins with its note."""
    out = np.zeros(int(end_seconds * RATE) + RATE)
    sounds = {channel: instrument(rng) for channel in range(16)}
    levels = {channel: rng.uniform(0.4, 1.2) for channel in range(16)}
    kit, drum_level = drum_kit(rng, noise), rng.uniform(0.4, 1.4)
    for note in notes:
        if note.channel == DRUMS:
            sound = kit[note.key] * (note.velocity / 127) ** 1.5 * drum_level
        else:
            sound = tone(note, sounds[note.channel]) * levels[note.channel]
        start = round(note.start * RATE)
        piece = sound[: max(0, len(out) - start)]
        out[start:start + len(piece)] += piece
    return out[: int(end_seconds * RATE)]
