"""Beats at any level, and doubts against the truth: score_levels.py TRUTH_FOLDER ANALYSIS_FOLDER prints JSON per song.

best: the highest F5 over the beats that were found, every second of them, and twice as many.
wrong, right: seconds between true beats that were heard wrongly or rightly; wrong_doubted, right_doubted: those of them that
are marked as doubtful. A stretch between two true beats is right where both are found within 70 ms and nothing lies between.
A doubt about the level of the whole song covers the whole song.
"""

import json
import sys
import warnings
from pathlib import Path

import mir_eval
import numpy as np

WINDOW = 0.07
warnings.filterwarnings("ignore")


def seconds_of(path):
    lines = path.read_text().splitlines() if path.exists() else []
    return np.array(sorted(float(line.split()[0]) for line in lines if line.strip()))


def best_level(truth, found):
    trim = mir_eval.beat.trim_beats
    doubled = np.sort(np.concatenate([found, (found[1:] + found[:-1]) / 2])) if len(found) > 1 else found
    return max(mir_eval.beat.f_measure(trim(truth), trim(beats), WINDOW) if len(beats) > 1 else 0.0
               for beats in (found, found[::2], found[1::2], doubled))


scores = {}
for path in sorted(Path(sys.argv[1]).glob("*.json")):
    info, name = json.loads(path.read_text()), path.stem
    truth, found = seconds_of(path.with_suffix(".beats")), seconds_of(Path(sys.argv[2]) / f"{name}.beats")
    start, end = info.get("scored_from", 0.0), info.get("scored_to", truth[-1] + 1)
    truth, found = (times[(times >= start) & (times <= end)] for times in (truth, found))
    analysis = json.loads((Path(sys.argv[2]) / f"{name}.json").read_text())
    doubts = [(d["startSeconds"], d["endSeconds"]) for d in analysis["doubts"]]
    if analysis["levelDoubt"] is not None or not analysis["steady"]:
        doubts = [(0.0, 1e9)]
    row = dict(best=best_level(truth, found), wrong=0.0, wrong_doubted=0.0, right=0.0, right_doubted=0.0)
    for a, b in zip(truth, truth[1:]):
        near = lambda t: len(found) > 0 and np.abs(found - t).min() <= WINDOW
        is_right = near(a) and near(b) and not np.any((found > a + WINDOW) & (found < b - WINDOW))
        covered = sum(max(0.0, min(b, to) - max(a, since)) for since, to in doubts)
        kind = "right" if is_right else "wrong"
        row[kind] += b - a
        row[f"{kind}_doubted"] += min(b - a, covered)
    scores[name] = row
print(json.dumps(scores))
