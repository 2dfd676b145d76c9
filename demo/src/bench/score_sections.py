"""Section boundaries against the truth: score_sections.py TRUTH_FOLDER ANALYSIS_FOLDER prints JSON per song.

TRUTH_FOLDER/NAME.json holds sections with a start and music_end; ANALYSIS_FOLDER/NAME.json is what `humming-tide analyze` writes.
mir_eval.segment.detection, boundaries within 0.5 s and within 3 s, the outer two left out.
"""

import json
import sys
from pathlib import Path

import mir_eval
import numpy as np


def intervals(starts, end):
    times = sorted(t for t in set(starts) if t < end) + [end]
    return np.array(list(zip(times[:-1], times[1:])))


scores = {}
for path in sorted(Path(sys.argv[1]).glob("*.json")):
    truth, found = json.loads(path.read_text()), Path(sys.argv[2]) / path.name
    if not found.exists() or "sections" not in truth:
        continue
    end = truth["music_end"]
    reference = intervals([0.0] + [s["start"] for s in truth["sections"] if s["start"] > 0.5], end)
    estimate = intervals([0.0] + [s["startSeconds"] for s in json.loads(found.read_text())["sections"] if s["startSeconds"] > 0.5], end)
    row = {}
    for window in (0.5, 3.0):
        row[str(window)] = mir_eval.segment.detection(reference, estimate, window=window, trim=True)[2]
    scores[path.stem] = row
print(json.dumps(scores))
