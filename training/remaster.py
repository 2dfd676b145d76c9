#!/usr/bin/env python3
"""The same songs from other desks: tone, limiters, drive, narrow bands, MP3. Nothing here moves a sound in time.

    remaster.py --songs FOLDER --out FOLDER [--jobs 2]

Writes NAME.wav and NAME.truth of every song of FOLDER. Seeded by the song's name. Needs ffmpeg and python3-scipy.
"""

import argparse
import random
import subprocess
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
from scipy.io import wavfile
from scipy.ndimage import maximum_filter1d, uniform_filter1d
from scipy.signal import butter, sosfilt

RATE = 44100


def shelf(audio, hz, decibels, side):
    """Raises or lowers what lies below (`low`) or above (`high`) a frequency."""
    part = sosfilt(butter(1, hz, side, fs=RATE, output="sos"), audio)
    return audio + part * (10 ** (decibels / 20) - 1)


def limited(audio, drive, release):
    """Pressed against full scale: the gain follows the peaks, and falls before they come."""
    loud = audio / max(1e-9, np.abs(audio).max()) * drive
    peaks = maximum_filter1d(np.abs(loud), int(0.01 * RATE))
    gain = uniform_filter1d(1 / np.maximum(1, maximum_filter1d(peaks, int(release * RATE))), int(0.005 * RATE))
    return np.clip(loud * gain, -1, 1)


def through_mp3(audio, kilobits):
    """Coded and decoded by ffmpeg, which cuts off the codec's delay."""
    pcm = np.round(np.clip(audio, -1, 1) * 32767).astype("<i2").tobytes()
    raw = ["-f", "s16le", "-ar", str(RATE), "-ac", "1"]
    coded = subprocess.run(["ffmpeg", "-v", "quiet", *raw, "-i", "-", "-b:a", f"{kilobits}k", "-f", "mp3", "-"], input=pcm, stdout=subprocess.PIPE, check=True).stdout
    out = subprocess.run(["ffmpeg", "-v", "quiet", "-i", "-", *raw, "-"], input=coded, stdout=subprocess.PIPE, check=True).stdout
    decoded = np.frombuffer(out, "<i2") / 32768
    return np.pad(decoded, (0, max(0, len(audio) - len(decoded))))[: len(audio)]


def remastered(audio, rng):
    """Each kind of change with its own chance."""
    if rng.random() < 0.6:
        audio = shelf(audio, rng.uniform(100, 300), rng.uniform(-12, 10), "low")
    if rng.random() < 0.6:
        audio = shelf(audio, rng.uniform(1500, 5000), rng.uniform(-12, 12), "high")
    if rng.random() < 0.15:  # a telephone's loudspeaker
        audio = sosfilt(butter(4, rng.uniform(120, 350), "high", fs=RATE, output="sos"), audio)
    if rng.random() < 0.1:
        audio = sosfilt(butter(4, rng.uniform(2500, 8000), "low", fs=RATE, output="sos"), audio)
    if rng.random() < 0.3:  # one desk's middle
        hz = rng.uniform(300, 3000)
        middle = sosfilt(butter(1, [hz / 1.5, hz * 1.5], "band", fs=RATE, output="sos"), audio)
        audio = audio + middle * (10 ** (rng.uniform(-9, 9) / 20) - 1)
    audio = audio / max(1e-9, np.abs(audio).max())
    if rng.random() < 0.65:
        audio = limited(audio, 10 ** (rng.uniform(3, 18) / 20), rng.choice([0.02, 0.05, 0.15, 0.4]))
    if rng.random() < 0.3:
        audio = np.tanh(audio * rng.uniform(1, 4))
    if rng.random() < 0.25:
        audio = through_mp3(audio * 0.9, rng.choice([64, 96, 128]))
    return audio / max(1e-9, np.abs(audio).max()) * rng.choice([1, 1, 0.9, 0.4])


def remaster(path, out):
    rng = random.Random(f"desk-{path.stem}")
    _, data = wavfile.read(path)
    audio = remastered(data / 32768, rng)
    wavfile.write(out / path.name, RATE, np.round(np.clip(audio, -1, 1) * 32767).astype(np.int16))
    (out / f"{path.stem}.truth").write_text(path.with_suffix(".truth").read_text())


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--songs", type=Path, required=True)
    parser.add_argument("--out", type=Path, required=True)
    parser.add_argument("--jobs", type=int, default=2, help="processes")
    args = parser.parse_args()
    args.out.mkdir(parents=True, exist_ok=True)
    songs = sorted(args.songs.glob("*.wav"))
    with ProcessPoolExecutor(args.jobs) as pool:
        list(pool.map(remaster, songs, [args.out] * len(songs)))


if __name__ == "__main__":
    main()
