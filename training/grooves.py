"""Which grooves of the arranger's library are used for training, how they are counted and how fast they are played.

The development corpus of the beat benchmark is arranged by the same program. Its grooves are left out here, with
everything else in the same library files and in files of the same name, so that the corpus stays unseen.
"""

import re
from collections import namedtuple
from pathlib import Path

# beats   felt beats per bar          quarter   the arranger's beats per felt beat
# feel    straight | swing | compound
Groove = namedtuple("Groove", "name mains fills beats quarter feel slowest fastest meter")

LIBRARY = Path("/usr/share/mma/lib")

# Library files whose grooves are in the benchmark's development corpus.
UNSEEN = set("""8beat poprock1 basicrock 50srock boneym house techno waltz vienesewaltz bossanova samba swing slowcountry folk
bwmarch ballad pianoballad blues68 ballad128 jazz-54 arpeggio44 stringballad rb hiphop polka chacha bvfunk""".split())
# Counted in two or four, or with a beat that even their players would argue about: of no use as truth.
AMBIGUOUS = set("""metronome metronome3 metronome6 metronome68 none ragtime charleston 2beatp dixie merengue dnb count intro ending
quickstep 68march afro-cuban ballad68 zydeco descendingjazz dixiemarch""".split())

# The first pattern found in the file's name decides the tempo (felt beats per minute). Common practice.
TEMPI = [
    ("128|slowblues|blues68|68", 46, 82),
    ("fastwaltz|fastjazzwaltz", 150, 196),
    ("waltz|34$", 84, 160),
    ("slow|ballad|bald|lullaby|serenade|hymn|ambient|spiritual|evans|nitejazz|mellow|desert", 52, 88),
    ("fastswing|fastbigband|bebop|fasttwist", 160, 220),
    ("swing|jazz|bigband|basie|easy", 104, 190),
    ("mambo|salsa", 160, 205),
    ("bossa|rhumba|beguine|bolero|son$|cuban|latin|calypso|tango", 96, 144),
    ("reggae", 64, 92),
    ("hip|rnb|rb|r\\+b|trip|soul|funk|fusion|fus", 74, 116),
    ("techno|trance|dance|rave|disco|digital|electric", 114, 144),
    ("twist|jive|boog|ska|punk|mtl|metal", 130, 178),
    ("16", 66, 104),
    ("rock|pop|beat|60s|80s|motown", 88, 156),
    ("march|polka", 104, 130),
    ("", 84, 144),
]


def _feel(stem):
    if re.search("128|68|slowblues|slowrock", stem):
        return "compound"
    return "swing" if re.search("swing|jazz|shuffle|boog|blues|bigband|basie|twist", stem) else "straight"


def find_grooves():
    """All usable grooves, one entry a library file, sorted by name."""
    found = []
    for path in sorted(LIBRARY.glob("*/*.mma")):
        stem = path.stem.lower()
        if stem in UNSEEN or stem in AMBIGUOUS:
            continue
        text = path.read_text(errors="replace")
        times = {int(t) for t in re.findall(r"^\s*Time\s+(\d+)", text, re.M | re.I)}
        names = [n for n in re.findall(r"^\s*DefGroove\s+(\S+)", text, re.M | re.I)]
        mains = [n for n in names if not re.search("fill|intro|end|break|tag", n, re.I)][:8]
        fills = [n for n in names if re.search("fill", n, re.I)][:2]
        if len(times) != 1 or not mains or not times <= {3, 4, 5, 6}:
            continue
        time = times.pop()
        quarter = {6: 3}.get(time, 2 if re.search("march|polka$|poppolka|samba", stem) else 1)
        beats = time // quarter
        meter = {(2, 3): "6/8", (2, 2): "2/4"}.get((beats, quarter)) or ("12/8" if "128" in stem else f"{beats}/4")
        slowest, fastest = next((low, high) for pattern, low, high in TEMPI if re.search(pattern, stem))
        library = "" if path.parent.name == "stdlib" else path.parent.name + ":"
        found.append(Groove(stem, [library + n for n in mains], [library + n for n in fills], beats, quarter,
                            _feel(stem), slowest, fastest, meter))
    return found


if __name__ == "__main__":
    for groove in find_grooves():
        print(*groove)
