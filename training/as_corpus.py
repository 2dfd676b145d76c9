#!/usr/bin/env python3
"""The songs that are kept for validation, as a corpus for `npm run bench:beats`.

    as_corpus.py --songs FOLDER... --out FOLDER

Copies of each kept song NAME.wav, NAME.beats and NAME.json. Songs of a later folder of the same name get its number.
"""

import argparse
import json
import shutil
from pathlib import Path

from train import is_kept

parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
parser.add_argument("--songs", type=Path, nargs="+", required=True)
parser.add_argument("--out", type=Path, required=True)
args = parser.parse_args()
args.out.mkdir(parents=True, exist_ok=True)
for number, folder in enumerate(args.songs):
    for path in sorted(folder.glob("*.truth")):
        rows = [line.split("\t") for line in path.read_text().splitlines()]
        if not rows or not is_kept(path):
            continue
        name = path.stem + (f"_{number + 1}" if number else "")
        shutil.copy(path.with_suffix(".wav"), args.out / f"{name}.wav")
        (args.out / f"{name}.beats").write_text("".join(f"{seconds}\t{beat}\n" for seconds, beat, _ in rows))
        (args.out / f"{name}.json").write_text(json.dumps(dict(name=name, genre="made up", meter="unknown", variants=[])))
