"""Singing: syllables that espeak-ng speaks, brought to the pitch and length of each note."""

import subprocess

import numpy as np
from scipy.io import wavfile

RATE = 44100
SYLLABLES = ["la", "na", "oh", "ma", "hey", "da", "so", "roo", "lee", "sha"]


def spoken(syllable, rng, folder):
    """(samples, their pitch in hertz) of one syllable, without the silence around it."""
    path = folder / "syllable.wav"
    subprocess.run(["espeak-ng", "-s", "120", "-p", str(rng.randint(20, 80)), "-w", str(path), syllable], check=True, capture_output=True)
    rate, data = wavfile.read(path)
    data = np.interp(np.arange(0, len(data) - 1, rate / RATE), np.arange(len(data)), data / 32768.0)
    loud = np.flatnonzero(np.abs(data) > 0.1 * np.abs(data).max())
    data = data[loud[0]: loud[-1] + 1]
    middle = data[len(data) // 3: len(data) // 3 + 4096]
    echo = np.correlate(middle, middle, "full")[len(middle) - 1:]
    low, high = RATE // 400, RATE // 70
    return data, RATE / (low + int(echo[low:high].argmax())) if len(middle) > high else 150.0


def sung(notes, end_seconds, rng, folder):
    """Mono samples: each note, in seconds, sung on a syllable with a slow attack and some vibrato."""
    voices = [spoken(s, rng, folder) for s in rng.sample(SYLLABLES, 5)]
    out = np.zeros(int(end_seconds * RATE) + RATE)
    depth = rng.uniform(0, 0.012)
    for note in notes:
        data, hz = rng.choice(voices)
        length = int(max(0.12, note.end - note.start) * RATE)
        t = np.arange(length) / RATE
        speed = 440 * 2 ** ((note.key - 12 - 69) / 12) / hz
        at = np.cumsum(speed * (1 + depth * np.sin(2 * np.pi * 5.3 * t) * np.minimum(1, t * 3)))
        # The vowel's middle goes round as long as the note lasts.
        first, span = len(data) * 0.45, max(400, len(data) * 0.25)
        looped = np.where(at < first + span, at, first + (at - first) % span)
        body = np.interp(looped, np.arange(len(data)), data)
        envelope = np.minimum(1, t / 0.03) * np.minimum(1, (length / RATE - t) / 0.04)
        start = round(note.start * RATE)
        piece = (body * envelope * note.velocity / 127)[: max(0, len(out) - start)]
        out[start:start + len(piece)] += piece
    return out[: int(end_seconds * RATE)]
