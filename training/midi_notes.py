"""Notes as plain data: reading what an arranger wrote, writing what a synthesizer plays."""

from dataclasses import dataclass

import mido

DRUMS = 9  # MIDI channel of the drum kit
FINE_TICKS = 2000  # ticks per quarter at 120 BPM in a file to be rendered: 0.25 ms each


@dataclass
class Note:
    """`start` and `end` are in felt beats while a song is arranged and in seconds once it is timed."""

    start: float
    end: float
    channel: int
    key: int
    velocity: int


def read_midi(path, beats_per_quarter):
    """Notes (in felt beats) and (beat, message) controllers of a MIDI file; its tempo is left out."""
    midi = mido.MidiFile(path, clip=True)
    scale = beats_per_quarter / midi.ticks_per_beat
    notes, controls = [], []
    for track in midi.tracks:
        tick, sounding = 0, {}
        for message in track:
            tick += message.time
            if message.type == "note_on" and message.velocity:
                note = Note(tick * scale, tick * scale, message.channel, message.note, message.velocity)
                notes.append(note)
                sounding.setdefault((message.channel, message.note), []).append(note)
            elif message.type in ("note_on", "note_off"):
                open_notes = sounding.get((message.channel, message.note))
                if open_notes:
                    open_notes.pop(0).end = tick * scale
            elif not message.is_meta and message.type != "sysex":
                controls.append((tick * scale, message.copy(time=0)))
    return notes, controls


def write_midi(path, notes, controls, end_seconds):
    """Write notes and controllers given in seconds at one constant tempo, so that no renderer can drift."""
    per_second = FINE_TICKS * 2
    events = [(round(t * per_second), 0, m) for t, m in controls]
    for n in notes:
        start = round(n.start * per_second)
        end = max(start + 8, round(n.end * per_second))
        events.append((start, 2, mido.Message("note_on", channel=n.channel, note=n.key, velocity=n.velocity)))
        events.append((end, 1, mido.Message("note_off", channel=n.channel, note=n.key)))
    # A harmless controller keeps the renderer running until the end.
    events.append((round(end_seconds * per_second), 3, mido.Message("control_change", control=119, value=0)))
    midi = mido.MidiFile(ticks_per_beat=FINE_TICKS)
    track, last = mido.MidiTrack(), 0
    for tick, _, message in sorted(events, key=lambda e: e[:2]):
        track.append(message.copy(time=tick - last))
        last = tick
    midi.tracks.append(track)
    midi.save(path)
