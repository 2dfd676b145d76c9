#!/usr/bin/env python3
"""Make songs with exact truth to train the beat network on.

    make_songs.py --out FOLDER [--count 400] [--first 0] [--jobs 2]

Needs Debian's mma, fluidsynth, espeak-ng, python3-mido, python3-scipy and the soundfont packages named in README.md.
Per song: NAME.wav (44.1 kHz mono) and NAME.truth, lines of "seconds, beat in the bar, 1 if a section starts here".
A file without lines has no beat at all (free playing, speech, noise). Seeded: the same numbers give the same songs.
"""

import argparse
import random
import subprocess
import tempfile
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import mido
import numpy as np
from scipy.io import wavfile
from scipy.signal import butter, fftconvolve, lfilter

import own_sounds
import songs
import voices
from midi_notes import DRUMS, Note, write_midi

RATE = 44100
SOUNDFONTS = ["sf2/FluidR3_GM.sf2", "sf2/TimGM6mb.sf2", "sf3/MuseScore_General_Full.sf3"]
# The synthesizer starts a sound about 4 ms after its note (measured: drums 3.0 to 5.1, piano 3.5 to 4.2).
RENDER_LATENCY = 0.004
WORDS = "the lanterns are lit along the quay and every boat is painted anew while the crews wait for the starting bell to ring over the harbour".split()


def render(notes, controls, end, soundfont, folder):
    write_midi(folder / "render.mid", notes, controls, end)
    subprocess.run(["fluidsynth", "-ni", "-q", "-r", str(RATE), "-g", "0.4", "-o", "synth.dynamic-sample-loading=1", "-F",
                    str(folder / "render.wav"), f"/usr/share/sounds/{soundfont}", str(folder / "render.mid")], check=True, capture_output=True)
    _, data = wavfile.read(folder / "render.wav")
    return data[: int(end * RATE)].mean(axis=1) / 32768


def speech(seconds, rng, folder):
    """Synthetic speech, to be told apart from music and to lie over it."""
    text = " ".join(rng.choice(WORDS) for _ in range(int(seconds * 2.6)))
    subprocess.run(["espeak-ng", "-s", str(rng.randint(120, 190)), "-p", str(rng.randint(20, 80)), "-w", str(folder / "speech.wav"), text],
                   check=True, capture_output=True)
    rate, data = wavfile.read(folder / "speech.wav")
    at = np.arange(0, len(data) - 1, rate / RATE)
    return np.interp(at, np.arange(len(data)), data / 32768.0)[: int(seconds * RATE)]


def lay_over(audio, other, gain):
    n = min(len(audio), len(other))
    level = np.sqrt((audio ** 2).mean()) / max(1e-9, np.sqrt((other ** 2).mean()))
    audio[:n] += other[:n] * level * gain
    return audio


def colour(audio, rng, noise):
    """What rooms, desks, tapes and mastering do to a recording; nothing here moves a sound in time."""
    if rng.random() < 0.3:  # hall
        n = int(rng.uniform(0.5, 2.6) * RATE)
        impulse = noise.standard_normal(n) * 10 ** (-3 * np.arange(n) / n)
        impulse = lfilter(*butter(2, rng.uniform(2500, 8000) / (RATE / 2)), impulse)
        wet = fftconvolve(audio, impulse / np.sqrt((impulse ** 2).sum()))[: len(audio)]
        delay = int(rng.uniform(0, 0.03) * RATE)
        audio = audio + rng.uniform(0.15, 0.8) * np.concatenate([np.zeros(delay), wet[: len(wet) - delay]])
    if rng.random() < 0.5:  # tone controls
        low, _ = butter(1, rng.uniform(120, 400) / (RATE / 2)), None
        bass = lfilter(*low, audio)
        audio = audio + bass * rng.uniform(-0.8, 1.5)
    if rng.random() < 0.5:
        high = butter(1, rng.uniform(2000, 6000) / (RATE / 2), "high")
        audio = audio + lfilter(*high, audio) * rng.uniform(-0.8, 1.5)
    audio = audio / max(1e-9, np.abs(audio).max())
    if rng.random() < 0.45:  # pressed loud
        audio = np.tanh(audio * rng.uniform(1.5, 6))
    if rng.random() < 0.12:  # an old radio
        audio = lfilter(*butter(4, rng.uniform(3000, 9000) / (RATE / 2)), audio)
    if rng.random() < 0.35:
        hiss = lfilter([0.05], [1, -0.95], noise.standard_normal(len(audio)))
        audio = audio + hiss / hiss.std() * 10 ** (rng.uniform(-60, -28) / 20)
    return audio / max(1e-9, np.abs(audio).max()) * rng.choice([0.9, 0.9, 0.5, 0.15])


def beatless(index, rng, noise, folder):
    """Sound without a pulse: free playing, speech, noise, a held chord."""
    seconds, kind = rng.uniform(20, 40), ["free", "speech", "noise", "held"][index % 4]
    if kind == "speech":
        return speech(seconds, rng, folder)
    if kind == "noise":
        return lfilter([1], [1, -rng.uniform(0, 0.97)], noise.standard_normal(int(seconds * RATE)))
    program = [(0, mido.Message("program_change", channel=0, program=rng.choice([0, 4, 24, 48, 52, 89, 19, 46])))]
    notes = songs.free_notes(seconds, rng)
    if kind == "held":
        notes, t = [], 0.1
        while t < seconds - 2:
            length = rng.uniform(3, 9)
            notes += [Note(t, t + length, 0, 48 + k, 70) for k in rng.sample(range(24), 4)]
            t += length * rng.uniform(0.6, 1.1)
    return render(notes, program, seconds, rng.choice(SOUNDFONTS), folder)


def bare_pulse(rng, noise):
    """(audio, truth lines) of clicks, bleeps or bursts of noise alone: what a practice click or a lone drum sounds like."""
    beats, bpm = rng.choice([1, 2, 3, 4, 4, 5]), rng.uniform(48, 196)
    times, t, x = [], rng.uniform(0.1, 5), 0.0
    wander, step_at, ratio = rng.choice([0, 0, 0.003]), rng.uniform(12, 28), rng.choice([1, 1, rng.uniform(0.75, 1.3)])
    while t < 40:
        times.append(t)
        x = max(-0.05, min(0.05, x + rng.gauss(0, wander)))
        t += 60 / (bpm * (1 + x) * (ratio if t > step_at else 1))
    audio = np.zeros(int(42 * RATE))
    hz, decay, kind, accent = rng.uniform(180, 3200), rng.uniform(0.006, 0.08), rng.choice(["sine", "noise"]), rng.random() < 0.6
    for i, time in enumerate(times):
        at = np.arange(int(decay * 6 * RATE)) / RATE
        strong = accent and i % beats == 0
        body = np.sin(2 * np.pi * hz * (1.5 if strong else 1) * at) if kind == "sine" else noise.standard_normal(len(at))
        start = round(time * RATE)
        audio[start:start + len(at)] += (body * np.exp(-at / decay) * (1.4 if strong else 1))[: len(audio) - start]
    return audio, [(time, i % beats + 1, int(i == 0)) for i, time in enumerate(times)]


def driven(audio, rng):
    """A guitar through an overdriven amplifier and its cabinet."""
    loud = audio / max(1e-9, np.abs(audio).max()) * 10 ** (rng.uniform(6, 36) / 20)
    wet = np.tanh(loud + rng.uniform(0, 0.3))
    return lfilter(*butter(2, [rng.uniform(70, 120) / (RATE / 2), rng.uniform(3500, 6500) / (RATE / 2)], "band"), wet)


def played(song, notes, controls, end, rng, folder):
    """The notes on a soundfont; driven guitars and the voice are made apart and mixed in."""
    soundfont = rng.choice(SOUNDFONTS)
    apart = song.driven | {song.sung}
    audio = render([n for n in notes if n.channel not in apart], controls, end, soundfont, folder)
    level = np.sqrt((audio ** 2).mean()) + 1e-6
    for channel in sorted(song.driven):
        guitar = driven(render([n for n in notes if n.channel == channel], controls, end, soundfont, folder), rng)
        audio = lay_over(audio, guitar / max(1e-9, np.sqrt((guitar ** 2).mean())) * level, rng.uniform(0.3, 1.6))
    if song.sung >= 0:
        audio = lay_over(audio, voices.sung([n for n in notes if n.channel == song.sung], end, rng, folder), rng.uniform(0.4, 1.5))
    return audio


def sounding(song, rng, noise, folder, own):
    """(audio, truth lines) of a song, played by soundfonts or by our own synthesizer."""
    free_intro = rng.uniform(4, 10) if rng.random() < 0.06 else 0
    lead = free_intro or rng.choice([0, 0.2, rng.uniform(0, 4)])
    factors, _ = songs.tempo_factors(song, rng)
    clock = songs.beat_clock(song, factors, lead)
    human = rng.choice([0, 0, 0.004, 0.007, 0.01])
    bare = rng.random() < 0.1
    late = {c: rng.gauss(0, human * 0.5) for c in range(16)}
    notes = []
    for n in song.notes:
        if bare and n.channel == DRUMS:
            continue
        shift = max(-0.025, min(0.025, rng.gauss(0, human) + late[n.channel])) if human else 0
        start = max(0, clock(n.start) + shift)
        notes.append(Note(start, max(start + 0.02, clock(n.end)), n.channel, n.key, n.velocity))
    controls = [(clock(t) if t > 0 else 0, m) for t, m in song.controls]
    if free_intro:
        channel = max({n.channel for n in song.notes if n.channel != DRUMS})
        notes += songs.free_notes(free_intro, rng, channel)
    end = clock(song.bars * song.beats_per_bar) + 2.5
    latency = 0.0 if own else RENDER_LATENCY
    audio = own_sounds.play(notes, end, rng, noise) if own else played(song, notes, controls, end, rng, folder)
    if rng.random() < 0.08:
        audio = lay_over(audio, speech(end, rng, folder), rng.uniform(0.3, 1.0))
    truth = []
    starts = {s["bar"] * song.beats_per_bar for s in song.sections}
    for beat in range(-song.pickup_beats, song.bars * song.beats_per_bar + 1):
        truth.append((clock(beat) + latency, beat % song.beats_per_bar + 1, int(beat in starts)))
    return audio, truth


def make(index, out):
    rng = random.Random(f"lantern-{index}")
    noise = np.random.default_rng(index)
    with tempfile.TemporaryDirectory() as folder:
        folder = Path(folder)
        if index % 12 == 11:
            name, truth, audio = f"none{index:04d}", [], beatless(index // 12, rng, noise, folder)
        elif index % 12 == 5:
            name = f"pulse{index:04d}"
            audio, truth = bare_pulse(rng, noise)
        else:
            song = songs.make_song(index, rng, folder)
            name = song.name
            audio, truth = sounding(song, rng, noise, folder, songs.FIRST_OWN_SOUND <= index < songs.FIRST_LOUD)
        audio = colour(audio, rng, noise)
    wavfile.write(out / f"{name}.wav", RATE, np.round(np.clip(audio, -1, 1) * 32767).astype(np.int16))
    (out / f"{name}.truth").write_text("".join(f"{t:.4f}\t{n}\t{s}\n" for t, n, s in truth))
    return name


def try_make(index, out):
    try:
        return make(index, out)
    except RuntimeError as error:  # a groove that the arranger cannot play
        return f"left out: {error}"


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--out", type=Path, required=True)
    parser.add_argument("--count", type=int, default=400)
    parser.add_argument("--first", type=int, default=0)
    parser.add_argument("--step", type=int, default=1, help="make only every STEP-th")
    parser.add_argument("--jobs", type=int, default=2, help="processes")
    args = parser.parse_args()
    args.out.mkdir(parents=True, exist_ok=True)
    indices = range(args.first, args.first + args.count, args.step)
    with ProcessPoolExecutor(args.jobs) as pool:
        for name in pool.map(try_make, indices, [args.out] * len(indices)):
            print(name, flush=True)


if __name__ == "__main__":
    main()
