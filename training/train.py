#!/usr/bin/env python3
"""Train the beat network on songs made by make_songs.py and written as features by write-features.ts.

    train.py --songs FOLDER... [--epochs 40] [--fine 24] [--coarse 40] [--out network.bin]

The network is a temporal convolution with growing dilation (after Davies & Böck, "Temporal convolutional networks for
musical audio beat tracking", EUSIPCO 2019), small enough for a few tenths of a second of processor time for a minute of
music. 66 features a frame of 20 ms in; beat, bar start, section start, and where within the frame the beat lies, out.
One song in thirteen is kept for validation, in
all its masters. Seeded; needs python3-torch.
"""

import argparse
import json
import random
import re
import time
from pathlib import Path

import numpy as np
import torch
import torch.nn.functional as functional

FEATURES = 66
FRAME = 0.02  # s
FRAME_CENTRE = 0.005  # a frame is the two hops at 0 and 10 ms after its start
KERNEL = 5
FINE_DILATIONS = [1, 2]
COARSE_DILATIONS = [1, 2, 4, 8, 16, 32, 64]
FOLD = 4  # fine frames in a coarse one
CROP = 1500  # frames
OUTPUTS = 4  # beat, bar start, section start, place within the frame


class Block(torch.nn.Module):
    """A dilated convolution and a mixing one, added to what came in."""

    def __init__(self, channels, dilation):
        super().__init__()
        self.dilated = torch.nn.Conv1d(channels, channels, KERNEL, dilation=dilation, padding=dilation * (KERNEL // 2))
        self.mixed = torch.nn.Conv1d(channels, channels, 1)
        self.dropout = torch.nn.Dropout(0.1)

    def forward(self, x):
        return x + self.mixed(self.dropout(functional.relu(self.dilated(x))))


class Network(torch.nn.Module):
    """Fine blocks at 50 frames a second around coarse ones at 12.5, where twenty seconds to both sides cost little."""

    def __init__(self, fine, coarse):
        super().__init__()
        self.enter = torch.nn.Conv1d(FEATURES, fine, 3, padding=1)
        self.before = torch.nn.ModuleList(Block(fine, d) for d in FINE_DILATIONS)
        self.down = torch.nn.Conv1d(fine, coarse, FOLD, stride=FOLD)
        self.coarse = torch.nn.ModuleList(Block(coarse, d) for d in COARSE_DILATIONS)
        self.up = torch.nn.Conv1d(coarse, fine * FOLD, 1)
        self.after = torch.nn.ModuleList(Block(fine, d) for d in FINE_DILATIONS)
        self.leave = torch.nn.Conv1d(fine, OUTPUTS, 1)

    def forward(self, x):
        """(songs, FEATURES, frames) to (songs, OUTPUTS, frames); frames must be a multiple of FOLD."""
        x = functional.relu(self.enter(x))
        for block in self.before:
            x = block(x)
        y = functional.relu(self.down(functional.relu(x)))
        for block in self.coarse:
            y = block(y)
        y = self.up(functional.relu(y))
        songs, _, frames = y.shape
        x = x + y.view(songs, FOLD, -1, frames).permute(0, 2, 3, 1).reshape(songs, -1, frames * FOLD)
        for block in self.after:
            x = block(x)
        return self.leave(functional.relu(x))


def is_kept(path):
    """Whether a song is kept for validation, in all its masters: by the number in its name."""
    return int(re.search(r"[0-9]+", path.stem)[0]) % 13 == 5


def load(path):
    """(features of shape FEATURES x frames, truth as rows of seconds, beat in the bar, 1 if a section starts)."""
    features = np.fromfile(path, dtype="<f4").reshape(-1, FEATURES).T
    rows = [[float(x) for x in line.split()] for line in path.with_suffix(".truth").read_text().splitlines()]
    return features[:, : features.shape[1] // FOLD * FOLD].astype(np.float32), np.array(rows).reshape(-1, 3)


def targets_of(truth, frames, first=0, stretch=1.0):
    """Targets (OUTPUTS + 1, frames) from frame `first` of a song played `stretch` times as slowly; the last row says where the place counts."""
    targets = np.zeros((OUTPUTS + 1, frames), dtype=np.float32)
    for seconds, number, section in truth:
        at = ((seconds - FRAME_CENTRE) / FRAME - first) * stretch
        frame = round(at)
        if not -13 <= frame < frames + 13:
            continue
        near = [(frame + o, o) for o in (-1, 0, 1) if 0 <= frame + o < frames]
        for f, offset in near:
            value = 0.4 if offset else 1.0
            targets[0, f] = max(targets[0, f], value)
            if number == 1:
                targets[1, f] = max(targets[1, f], value)
            targets[3, f] = at - f  # in frames, -1.5 to 1.5
            targets[4, f] = 1
        if section:
            for offset in range(-12, 13):
                if 0 <= frame + offset < frames:
                    targets[2, frame + offset] = max(targets[2, frame + offset], 1 - abs(offset) / 13)
    return targets


def silence(x, low, bands, ranges):
    """Levels and onsets of the lowest or highest part of the range become what they are on average."""
    part = lambda first, end, count: slice(first, first + count) if low else slice(end - count, end)
    x[part(0, 36, bands)] = 0
    for hop in (36, 48):
        x[part(hop, hop + 12, ranges)] = 0


def batch_of(songs, size, rng, mean, deviation):
    xs, ys, ms = [], [], []
    for _ in range(size):
        features, truth = rng.choice(songs)
        stretch = rng.uniform(0.85, 1.18) if rng.random() < 0.4 else 1.0
        start = rng.randrange(max(1, features.shape[1] - int(CROP / stretch)))
        source = start + np.round(np.arange(CROP) / stretch).astype(int)
        source = source[source < features.shape[1]]
        x = (features[:, source] - mean) / deviation
        y = targets_of(truth, len(source), start, stretch)
        pad = CROP - len(source)
        mask = np.ones(CROP, dtype=np.float32)
        if pad:
            x, y = np.pad(x, ((0, 0), (0, pad))), np.pad(y, ((0, 0), (0, pad)))
            mask[CROP - pad:] = 0
        if rng.random() < 0.5:  # another loudness or tone, which standardising did not take away
            tilt = np.linspace(rng.gauss(0, 0.3), rng.gauss(0, 0.3), 36, dtype=np.float32) + rng.gauss(0, 0.2)
            x[:36] += tilt[:, None]
            x[36:60] *= np.float32(np.exp(rng.gauss(0, 0.15)))
        if rng.random() < 0.15:  # a part of the range tells nothing: small loudspeakers, a dull copy
            low = rng.random() < 0.5
            bands, ranges = rng.randrange(3, 12), rng.randrange(1, 4)
            silence(x, low, bands, ranges)
        xs.append(x.astype(np.float32))
        ys.append(y)
        ms.append(mask)
    return torch.from_numpy(np.stack(xs)), torch.from_numpy(np.stack(ys)), torch.from_numpy(np.stack(ms))


def losses(out, y, mask):
    weigh = lambda row, positive: (functional.binary_cross_entropy_with_logits(
        out[:, row], y[:, row], reduction="none", weight=1 + (positive - 1) * y[:, row]) * mask).sum() / mask.sum()
    counted = y[:, 4] * mask
    place = ((out[:, 3] - y[:, 3]).abs() * counted).sum() / counted.sum().clamp(min=1)
    return weigh(0, 3.0), weigh(1, 4.0), weigh(2, 4.0), place


def export(network, mean, deviation, name, path):
    """A header that says the network's name and shape, then its weights at half precision, in the order in which they are used.

    The deviation is folded into the first layer. core/src/music/beats/beat-network.ts reads the file.
    """
    weights = {k: v.detach().numpy().astype(np.float64) for k, v in network.state_dict().items()}
    weights["enter.weight"] /= deviation[None, :, :]
    half = np.concatenate([mean.ravel()] + [v.ravel() for v in weights.values()]).astype("<f2")
    header = json.dumps({
        "name": name,
        "fineChannels": int(weights["enter.bias"].size),
        "coarseChannels": int(weights["down.bias"].size),
        "fineDilations": FINE_DILATIONS,
        "coarseDilations": COARSE_DILATIONS,
    }).encode()
    path.write_bytes(len(header).to_bytes(4, "little") + header + half.tobytes())


def import_weights(network, path):
    """Takes the weights of a file that `export` wrote; returns their mean. Its deviation is in the weights."""
    data = path.read_bytes()
    numbers = np.frombuffer(data[4 + int.from_bytes(data[:4], "little"):], "<f2").astype(np.float32)
    at, weights = FEATURES, {}
    for name, value in network.state_dict().items():
        weights[name] = torch.from_numpy(numbers[at: at + value.numel()].reshape(value.shape))
        at += value.numel()
    network.load_state_dict(weights)
    return numbers[:FEATURES, None]


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--songs", type=Path, nargs="+", required=True)
    parser.add_argument("--epochs", type=int, default=40)
    parser.add_argument("--fine", type=int, default=24, help="channels at 50 frames a second, a multiple of 4")
    parser.add_argument("--coarse", type=int, default=40, help="channels at 12.5 frames a second, a multiple of 4")
    parser.add_argument("--start", type=Path, help="go on from a network file made before")
    parser.add_argument("--rate", type=float, default=3e-3)
    parser.add_argument("--name", required=True, help="what an analysis says heard it, such as 2026-11-30")
    parser.add_argument("--out", type=Path, default=Path(__file__).parent.parent / "core/src/music/beats/beat-network.bin")
    args = parser.parse_args()
    torch.manual_seed(1)
    torch.set_num_threads(2)
    rng = random.Random(1)
    paths = sorted(p for folder in args.songs for p in folder.glob("*.features") if p.stat().st_size >= 1000)
    songs = [load(p) for p in paths]
    validation = [song for song, path in zip(songs, paths) if is_kept(path)]
    training = [song for song, path in zip(songs, paths) if not is_kept(path)]
    stacked = np.concatenate([s[0][:, ::10] for s in training], axis=1)
    mean, deviation = stacked.mean(axis=1, keepdims=True), stacked.std(axis=1, keepdims=True) + 1e-3
    network = Network(args.fine, args.coarse)
    if args.start:
        mean, deviation = import_weights(network, args.start), np.ones((FEATURES, 1), dtype=np.float32)
    print(len(training), "songs", sum(p.numel() for p in network.parameters()), "weights", flush=True)
    optimizer = torch.optim.AdamW(network.parameters(), lr=args.rate, weight_decay=1e-3)
    size = 6
    steps = max(1, sum(s[0].shape[1] for s in training) // (CROP * size))
    schedule = torch.optim.lr_scheduler.OneCycleLR(optimizer, args.rate, total_steps=steps * args.epochs, pct_start=0.15)
    smooth = {k: v.clone() for k, v in network.state_dict().items()}
    began = time.time()
    for epoch in range(args.epochs):
        network.train()
        sums = np.zeros(4)
        for _ in range(steps):
            x, y, mask = batch_of(training, size, rng, mean, deviation)
            parts = losses(network(x), y, mask)
            loss = parts[0] + parts[1] + 0.4 * parts[2] + 0.1 * parts[3]
            optimizer.zero_grad()
            loss.backward()
            torch.nn.utils.clip_grad_norm_(network.parameters(), 1.0)
            optimizer.step()
            schedule.step()
            sums += [p.item() for p in parts]
            for k, v in network.state_dict().items():
                smooth[k].mul_(0.995).add_(v, alpha=0.005)
        raw = {k: v.clone() for k, v in network.state_dict().items()}
        network.load_state_dict(smooth)
        network.eval()
        checks = np.zeros(4)
        with torch.no_grad():
            for features, truth in validation:
                targets = targets_of(truth, features.shape[1])
                x = torch.from_numpy((features - mean) / deviation)[None].float()
                checks += [p.item() for p in losses(network(x), torch.from_numpy(targets)[None], torch.ones(1, x.shape[2]))]
        export(network, mean, deviation, args.name, args.out)
        network.load_state_dict(raw)
        print(epoch, f"{time.time() - began:.0f} s", np.round(sums / steps, 4), np.round(checks / len(validation), 4), flush=True)


if __name__ == "__main__":
    main()
