// Written by make types. Do not edit.
import type { Common, Line, LineStep, Chords, ChordStep, Phrase, PhraseStep, Pulse, PulseStep, ControlLane, ControlStep, Layer, Notes } from "./piece.gen";
import type { MakeBass, DragTone, DropChord, HoldChord, InvertChords, MoveChord, MoveTone, NameChord, OpenChords, PlaceChord, PlaceStack, TakeChord, TurnTone, WidenChords, WriteChords, AddClip, ApartStack, CopyClip, DoubleClip, SetHarmony, MoveClip, RemoveClip, SetClip, TakeAcross, AddVariant, FillAccents, FillChance, FillContour, DoubleHits, FillEven, FillEvery, FillFrom, FillPattern, FillPlays, FillShare, ThinOut, PrintGroove, TakeGroove, SetKey, AddLane, BecomeLane, CopyLane, DoubleLane, HoldLuck, MoveLane, PrintLanes, RemoveLane, ResizeLane, SetLane, TakeSketch, StartLane, TakeVaried, WriteModulator, AddNotes, BringNotes, CutNotes, EnterNotes, JoinNotes, MoveNotes, PaintNotes, PlaceNotes, PutNotes, RemoveNotes, RepeatNotes, ReverseNotes, SetNotes, StampNotes, StretchNotes, WriteNotes, AddEntries, CopyEntries, KeepPlayed, MoveEntries, RemoveEntries, SetEntries, SplitEntries, StretchEntries, WriteOrder, PrintPhrase, SetPiece, DragEnd, MoveSteps, ReverseSteps, RotateSteps, SetSteps, TransposeSteps, WriteSteps } from "./op.gen";

/** A lane of any kind. */
export type Lane = (Common & Line & { kind: "line" }) | (Common & Chords & { kind: "chords" }) | (Common & Phrase & { kind: "phrase" }) | (Common & Pulse & { kind: "pulse" }) | (Common & ControlLane & { kind: "control" }) | (Common & Layer & { kind: "layer" }) | (Common & Notes & { kind: "notes" });

/** A step of any kind of lane. */
export type Step = LineStep | ChordStep | PhraseStep | PulseStep | ControlStep;

/** An edit. */
export type Op = ({ op: "bass.make" } & MakeBass) | ({ op: "chords.drag" } & DragTone) | ({ op: "chords.drop" } & DropChord) | ({ op: "chords.hold" } & HoldChord) | ({ op: "chords.invert" } & InvertChords) | ({ op: "chords.move" } & MoveChord) | ({ op: "chords.moveTone" } & MoveTone) | ({ op: "chords.name" } & NameChord) | ({ op: "chords.open" } & OpenChords) | ({ op: "chords.place" } & PlaceChord) | ({ op: "chords.stack" } & PlaceStack) | ({ op: "chords.take" } & TakeChord) | ({ op: "chords.tone" } & TurnTone) | ({ op: "chords.widen" } & WidenChords) | ({ op: "chords.write" } & WriteChords) | ({ op: "clip.add" } & AddClip) | ({ op: "clip.apart" } & ApartStack) | ({ op: "clip.copy" } & CopyClip) | ({ op: "clip.double" } & DoubleClip) | ({ op: "clip.harmony" } & SetHarmony) | ({ op: "clip.move" } & MoveClip) | ({ op: "clip.remove" } & RemoveClip) | ({ op: "clip.set" } & SetClip) | ({ op: "clip.take" } & TakeAcross) | ({ op: "clip.variant" } & AddVariant) | ({ op: "fill.accents" } & FillAccents) | ({ op: "fill.chance" } & FillChance) | ({ op: "fill.contour" } & FillContour) | ({ op: "fill.double" } & DoubleHits) | ({ op: "fill.even" } & FillEven) | ({ op: "fill.every" } & FillEvery) | ({ op: "fill.from" } & FillFrom) | ({ op: "fill.pattern" } & FillPattern) | ({ op: "fill.plays" } & FillPlays) | ({ op: "fill.share" } & FillShare) | ({ op: "fill.thin" } & ThinOut) | ({ op: "groove.print" } & PrintGroove) | ({ op: "groove.take" } & TakeGroove) | ({ op: "key.set" } & SetKey) | ({ op: "lane.add" } & AddLane) | ({ op: "lane.become" } & BecomeLane) | ({ op: "lane.copy" } & CopyLane) | ({ op: "lane.double" } & DoubleLane) | ({ op: "lane.hold" } & HoldLuck) | ({ op: "lane.move" } & MoveLane) | ({ op: "lane.print" } & PrintLanes) | ({ op: "lane.remove" } & RemoveLane) | ({ op: "lane.resize" } & ResizeLane) | ({ op: "lane.set" } & SetLane) | ({ op: "lane.sketch" } & TakeSketch) | ({ op: "lane.start" } & StartLane) | ({ op: "lane.vary" } & TakeVaried) | ({ op: "lane.writeModulator" } & WriteModulator) | ({ op: "notes.add" } & AddNotes) | ({ op: "notes.bring" } & BringNotes) | ({ op: "notes.cut" } & CutNotes) | ({ op: "notes.enter" } & EnterNotes) | ({ op: "notes.join" } & JoinNotes) | ({ op: "notes.move" } & MoveNotes) | ({ op: "notes.paint" } & PaintNotes) | ({ op: "notes.place" } & PlaceNotes) | ({ op: "notes.put" } & PutNotes) | ({ op: "notes.remove" } & RemoveNotes) | ({ op: "notes.repeat" } & RepeatNotes) | ({ op: "notes.reverse" } & ReverseNotes) | ({ op: "notes.set" } & SetNotes) | ({ op: "notes.stamp" } & StampNotes) | ({ op: "notes.stretch" } & StretchNotes) | ({ op: "notes.write" } & WriteNotes) | ({ op: "order.add" } & AddEntries) | ({ op: "order.copy" } & CopyEntries) | ({ op: "order.keep" } & KeepPlayed) | ({ op: "order.move" } & MoveEntries) | ({ op: "order.remove" } & RemoveEntries) | ({ op: "order.set" } & SetEntries) | ({ op: "order.split" } & SplitEntries) | ({ op: "order.stretch" } & StretchEntries) | ({ op: "order.write" } & WriteOrder) | ({ op: "phrase.print" } & PrintPhrase) | ({ op: "piece.set" } & SetPiece) | ({ op: "step.drag" } & DragEnd) | ({ op: "steps.move" } & MoveSteps) | ({ op: "steps.reverse" } & ReverseSteps) | ({ op: "steps.rotate" } & RotateSteps) | ({ op: "steps.set" } & SetSteps) | ({ op: "steps.transpose" } & TransposeSteps) | ({ op: "steps.write" } & WriteSteps);

/** What forms and rails need of each field: ranges, defaults, units, choices. */
export const facts = {
  "piece": {
    "$schema": {"title": "$schema", "doc": "Where its schema is; ignored.", "longest": 2000, "initial": ""},
    "format": {"title": "Format", "doc": "Always agrimony-piece.", "choices": ["agrimony-piece"]},
    "version": {"title": "Version", "doc": "The version of the format.", "low": 1, "high": 1},
    "title": {"title": "Title", "doc": "Its title.", "longest": 120, "initial": "Untitled"},
    "tempo": {
      "title": "Tempo",
      "doc": "Quarter notes a minute.",
      "unit": "bpm",
      "low": 20,
      "high": 400,
      "initial": 120
    },
    "meter": {"title": "Meter", "doc": "N/D with N 1..32 and D 1, 2, 4, 8 or 16.", "initial": "4/4"},
    "key": {
      "title": "Key",
      "doc": "Its key.",
      "fields": {
        "tonic": {"title": "Tonic", "doc": "A letter A..G with at most one # or b.", "initial": "C"},
        "scale": {
          "title": "Scale",
          "doc": "The name of a scale, or its degrees against the major scale, rising from \"1\"."
        }
      }
    },
    "seed": {
      "title": "Seed",
      "doc": "What every draw of chance depends on.",
      "low": 0,
      "high": 9007199254740991,
      "initial": 1
    },
    "groove": {
      "title": "Groove",
      "doc": "Its feel.",
      "fields": {
        "swing": {
          "title": "Swing",
          "doc": "Where the second of each pair of grid steps falls, in % of the pair.",
          "unit": "%",
          "low": 50,
          "high": 75,
          "initial": 50
        },
        "grid": {
          "title": "Pairs of",
          "doc": "The steps that swing pairs.",
          "choices": ["1/8", "1/16"],
          "initial": "1/16"
        },
        "template": {
          "title": "Template",
          "doc": "Moves the notes of each sixteenth: the name of a built-in template, or one with 16 steps; absent: none."
        },
        "timing": {
          "title": "Timing",
          "doc": "How far the template moves notes, in %.",
          "unit": "%",
          "low": 0,
          "high": 100,
          "initial": 100
        },
        "velocity": {
          "title": "Velocity",
          "doc": "How far the template moves velocities, in %.",
          "unit": "%",
          "low": 0,
          "high": 100,
          "initial": 100
        }
      }
    },
    "beat": {
      "title": "Beat",
      "doc": "The drum beat under it.",
      "fields": {
        "pattern": {
          "title": "Beat",
          "doc": "A click that counts the beats, four on the floor, half-time, broken, or none.",
          "choices": ["off", "click", "four", "half", "broken"],
          "initial": "off"
        },
        "level": {"title": "Level", "doc": "Loudness in %.", "unit": "%", "low": 0, "high": 100, "initial": 60}
      }
    },
    "clips": {
      "title": "Clips",
      "doc": "Its clips.",
      "low": 0,
      "high": 64,
      "fields": {
        "id": {"title": "Id", "doc": "Its id, alone of its kind in the piece; absent: clip1, clip2 .."},
        "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
        "of": {"title": "Of", "doc": "The clip that it is a variant of, which is none itself."},
        "draws": {"title": "Draws", "doc": "The id that its draws use; absent: its own."},
        "bars": {"title": "Bars", "doc": "Its length in bars.", "low": 1, "high": 1024},
        "until": {
          "title": "Until",
          "doc": "Or where it ends: when its lanes' full cycle does, or when that meets the bar (realign, the default).",
          "choices": ["cycle", "realign"]
        },
        "seam": {
          "title": "Seam",
          "doc": "Whether it starts fresh, or as if the loop had come round: a glide into a lane's first note then comes from the pitch that the lane ends on.",
          "choices": ["fresh", "loop"],
          "initial": "fresh"
        },
        "key": {
          "title": "Key",
          "doc": "Its own key; absent: the piece's.",
          "fields": {
            "tonic": {"title": "Tonic", "doc": "A letter A..G with at most one # or b.", "initial": "C"},
            "scale": {
              "title": "Scale",
              "doc": "The name of a scale, or its degrees against the major scale, rising from \"1\"."
            }
          }
        },
        "harmony": {
          "title": "Harmony",
          "doc": "Where its chords come from; absent: its first chords lane.",
          "fields": {
            "clip": {"title": "Clip", "doc": "Another clip, whose harmony is read as if its lane stood in this one."},
            "lane": {
              "title": "Lane",
              "doc": "A chords lane of the clip, or one of free notes, whose chords are those that are played."
            }
          }
        },
        "lanes": {"title": "Lanes", "doc": "Its lanes.", "low": 0, "high": 32, "fields": {}}
      }
    },
    "order": {
      "title": "Order",
      "doc": "Its running order.",
      "fields": {
        "entries": {
          "title": "Entries",
          "doc": "Its entries; those of one clip do not overlap.",
          "low": 0,
          "high": 4096,
          "fields": {
            "clip": {"title": "Clip", "doc": "The clip that sounds."},
            "at": {
              "title": "At",
              "doc": "Where it begins, in 960ths of a quarter.",
              "low": 0,
              "high": 8053063680,
              "initial": 0
            },
            "for": {
              "title": "For",
              "doc": "How long it sounds, in 960ths of a quarter.",
              "low": 1,
              "high": 8053063680
            },
            "from": {
              "title": "From",
              "doc": "The place in the clip that it begins at, in 960ths of a quarter.",
              "low": 0,
              "high": 8053063680,
              "initial": 0
            },
            "mute": {"title": "Mute", "doc": "Lanes of the clip that do not sound."},
            "shift": {
              "title": "Shift",
              "doc": "By how many degrees its pitched lanes, and its chords, are moved.",
              "unit": "degrees",
              "low": -14,
              "high": 14,
              "initial": 0
            },
            "run": {
              "title": "Run",
              "doc": "Whether the clip begins again at its own end, or its lanes run on.",
              "choices": ["loop", "on"],
              "initial": "loop"
            },
            "luck": {
              "title": "Luck",
              "doc": "Whether each pass draws its luck anew, or all draw as the first.",
              "choices": ["fresh", "same"],
              "initial": "fresh"
            },
            "pass": {
              "title": "Pass",
              "doc": "The number that its first pass has.",
              "low": 1,
              "high": 1000000,
              "initial": 1
            },
            "ring": {"title": "Ring", "doc": "Its last notes keep their own length, a bar at most.", "initial": false}
          }
        }
      }
    },
    "quiet": {
      "title": "Quiet",
      "doc": "Rules of the review that are quiet everywhere.",
      "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
    }
  },
  "clip": {
    "id": {"title": "Id", "doc": "Its id, alone of its kind in the piece; absent: clip1, clip2 .."},
    "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
    "of": {"title": "Of", "doc": "The clip that it is a variant of, which is none itself."},
    "draws": {"title": "Draws", "doc": "The id that its draws use; absent: its own."},
    "bars": {"title": "Bars", "doc": "Its length in bars.", "low": 1, "high": 1024},
    "until": {
      "title": "Until",
      "doc": "Or where it ends: when its lanes' full cycle does, or when that meets the bar (realign, the default).",
      "choices": ["cycle", "realign"]
    },
    "seam": {
      "title": "Seam",
      "doc": "Whether it starts fresh, or as if the loop had come round: a glide into a lane's first note then comes from the pitch that the lane ends on.",
      "choices": ["fresh", "loop"],
      "initial": "fresh"
    },
    "key": {
      "title": "Key",
      "doc": "Its own key; absent: the piece's.",
      "fields": {
        "tonic": {"title": "Tonic", "doc": "A letter A..G with at most one # or b.", "initial": "C"},
        "scale": {
          "title": "Scale",
          "doc": "The name of a scale, or its degrees against the major scale, rising from \"1\"."
        }
      }
    },
    "harmony": {
      "title": "Harmony",
      "doc": "Where its chords come from; absent: its first chords lane.",
      "fields": {
        "clip": {"title": "Clip", "doc": "Another clip, whose harmony is read as if its lane stood in this one."},
        "lane": {
          "title": "Lane",
          "doc": "A chords lane of the clip, or one of free notes, whose chords are those that are played."
        }
      }
    },
    "lanes": {"title": "Lanes", "doc": "Its lanes.", "low": 0, "high": 32, "fields": {}}
  },
  "lane": {
    "line": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "rate": {
        "title": "Rate",
        "doc": "The length of one step.",
        "choices": ["4bar", "2bar", "1bar", "1/1D", "1/1", "1/1T", "1/2D", "1/2", "1/2T", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16", "1/16T", "1/32D", "1/32", "1/32T", "1/64D", "1/64", "1/64T"],
        "initial": "1/16"
      },
      "direction": {
        "title": "Way",
        "doc": "The order of the steps.",
        "choices": ["forward", "reverse", "pendulum", "shuffle"],
        "initial": "forward"
      },
      "window": {
        "title": "Window",
        "doc": "The run of steps that plays; absent: all.",
        "fields": {
          "start": {"title": "Start", "doc": "The first step, from 1.", "low": 1, "high": 512, "initial": 1},
          "count": {
            "title": "Count",
            "doc": "How many steps; absent: to the last.",
            "low": 1,
            "high": 512,
            "initial": 512
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "octave": {
        "title": "Octave",
        "doc": "The octave of the tonic at step octave 0; middle C is C4.",
        "low": -1,
        "high": 9,
        "initial": 3
      },
      "lock": {
        "title": "Lock",
        "doc": "What altered pitches are snapped to when rendering.",
        "choices": ["scale", "chord", "off"],
        "initial": "scale"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "follow": {"title": "Follow", "doc": "What degrees count from.", "choices": ["key", "root"], "initial": "key"},
      "roots": {
        "title": "Roots",
        "doc": "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
        "choices": ["up", "near"],
        "initial": "up"
      },
      "glide": {
        "title": "Glide",
        "doc": "How glides are written.",
        "fields": {
          "mode": {
            "title": "Written",
            "doc": "With the bend wheel, or as overlapping notes with portamento.",
            "choices": ["bend", "legato"],
            "initial": "bend"
          },
          "range": {
            "title": "Range",
            "doc": "The bend wheel's range in semitones.",
            "unit": "semitones",
            "low": 1,
            "high": 24,
            "initial": 12
          }
        }
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "bass"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 20
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 40
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 70
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {
            "title": "On",
            "doc": "The field that it moves.",
            "choices": ["velocity", "gate", "chance", "ratchet", "nudge", "degree", "octave"]
          },
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "odds": {
        "title": "Odds",
        "doc": "The alternatives of which each sounding step draws one by weight.",
        "low": 0,
        "high": 16,
        "fields": {
          "weight": {
            "title": "Weight",
            "doc": "How often it is drawn, against the others.",
            "low": 1,
            "high": 100,
            "initial": 1
          },
          "rest": {"title": "Rest", "doc": "The step rests.", "initial": false},
          "degrees": {
            "title": "Degrees",
            "doc": "Degrees added, or in a phrase steps along the scale.",
            "low": -24,
            "high": 24
          },
          "octave": {"title": "Octave", "doc": "Octaves added.", "low": -8, "high": 8},
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8},
          "velocity": {"title": "Velocity", "doc": "Added to the velocity.", "low": -126, "high": 126},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "low": 1, "high": 400}
        }
      },
      "take": {
        "title": "Take",
        "doc": "Which draw of all that luck decides in it; 0: the first.",
        "low": 0,
        "high": 9999,
        "initial": 0
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["odds", "range", "chance", "rounds", "groove"]
      },
      "steps": {
        "title": "Steps",
        "doc": "The steps; absent: 16 rests.",
        "low": 1,
        "high": 512,
        "fields": {
          "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
          "degree": {
            "title": "Degree",
            "doc": "The degree of the key, from 1 up to its number of degrees.",
            "low": 1,
            "high": 12,
            "initial": 1
          },
          "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
          "alter": {
            "title": "Alter",
            "doc": "Semitones from the degree.",
            "unit": "semitones",
            "low": -11,
            "high": 11,
            "initial": 0
          },
          "glide": {
            "title": "Glide",
            "doc": "Slides into the step's pitch.",
            "fields": {
              "time": {
                "title": "Time",
                "doc": "How long it takes, in % of the step.",
                "unit": "%",
                "low": 0,
                "high": 400,
                "initial": 50
              },
              "curve": {
                "title": "Curve",
                "doc": "0 linear, above starts slowly, below starts fast.",
                "low": -100,
                "high": 100,
                "initial": 0
              },
              "from": {
                "title": "From",
                "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
                "unit": "semitones",
                "low": -24,
                "high": 24
              }
            }
          },
          "bend": {
            "title": "Bend",
            "doc": "A bend over the sounding note, in rising order of at.",
            "low": 0,
            "high": 16,
            "fields": {
              "at": {
                "title": "At",
                "doc": "Where, in % of the note's length, with three decimals at most.",
                "unit": "%",
                "low": 0,
                "high": 100,
                "decimals": 3,
                "initial": 0
              },
              "by": {
                "title": "By",
                "doc": "How far, in semitones.",
                "unit": "semitones",
                "low": -24,
                "high": 24,
                "initial": 0
              },
              "curve": {
                "title": "Curve",
                "doc": "The curve of the way to this point.",
                "low": -100,
                "high": 100,
                "initial": 0
              }
            }
          },
          "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
          "gate": {
            "title": "Gate",
            "doc": "How long, in % of the step.",
            "unit": "%",
            "low": 1,
            "high": 400,
            "initial": 75
          },
          "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
          "nudge": {
            "title": "Nudge",
            "doc": "Earlier or later, in % of the step.",
            "unit": "%",
            "low": -50,
            "high": 50,
            "initial": 0
          },
          "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
        }
      }
    },
    "chords": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "rate": {
        "title": "Rate",
        "doc": "The length of one step.",
        "choices": ["4bar", "2bar", "1bar", "1/1D", "1/1", "1/1T", "1/2D", "1/2", "1/2T", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16", "1/16T", "1/32D", "1/32", "1/32T", "1/64D", "1/64", "1/64T"],
        "initial": "1/16"
      },
      "direction": {
        "title": "Way",
        "doc": "The order of the steps.",
        "choices": ["forward", "reverse", "pendulum", "shuffle"],
        "initial": "forward"
      },
      "window": {
        "title": "Window",
        "doc": "The run of steps that plays; absent: all.",
        "fields": {
          "start": {"title": "Start", "doc": "The first step, from 1.", "low": 1, "high": 512, "initial": 1},
          "count": {
            "title": "Count",
            "doc": "How many steps; absent: to the last.",
            "low": 1,
            "high": 512,
            "initial": 512
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "octave": {
        "title": "Octave",
        "doc": "The octave of the tonic at step octave 0; middle C is C4.",
        "low": -1,
        "high": 9,
        "initial": 3
      },
      "lock": {
        "title": "Lock",
        "doc": "What altered pitches are snapped to when rendering.",
        "choices": ["scale", "chord", "off"],
        "initial": "off"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "follow": {"title": "Follow", "doc": "What degrees count from.", "choices": ["key", "root"], "initial": "key"},
      "roots": {
        "title": "Roots",
        "doc": "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
        "choices": ["up", "near"],
        "initial": "up"
      },
      "voicing": {
        "title": "Voicing",
        "doc": "How the chords lie.",
        "fields": {
          "mode": {
            "title": "Voices",
            "doc": "As written, or smooth: with the least movement.",
            "choices": ["written", "smooth"],
            "initial": "written"
          },
          "low": {
            "title": "From",
            "doc": "The lowest MIDI pitch of smooth voices.",
            "low": 0,
            "high": 127,
            "initial": 48
          },
          "high": {
            "title": "To",
            "doc": "The highest, at least an octave above.",
            "low": 0,
            "high": 127,
            "initial": 79
          },
          "bass": {
            "title": "Bass",
            "doc": "Whether each chord's lowest tone stays its lowest.",
            "choices": ["free", "keep"],
            "initial": "free"
          },
          "clear": {
            "title": "Clear",
            "doc": "Whether smooth voices avoid adjacent semitones on top and clusters, where that moves them at most two semitones more.",
            "initial": false
          }
        }
      },
      "glide": {
        "title": "Glide",
        "doc": "Lets each tone glide from where it was in the chord before; absent: nothing glides.",
        "fields": {
          "mode": {
            "title": "Written",
            "doc": "With the bend wheel, as overlapping notes with portamento, or each note by itself (mpe).",
            "choices": ["mpe"],
            "initial": "mpe"
          },
          "range": {
            "title": "Range",
            "doc": "The bend wheel's range in semitones; absent: 12, of mpe 48.",
            "unit": "semitones",
            "low": 1,
            "high": 96
          }
        }
      },
      "palette": {
        "title": "Palette",
        "doc": "The chords that steps choose from; absent: one.",
        "low": 1,
        "high": 32,
        "fields": {
          "name": {
            "title": "Name",
            "doc": "A name of one's own; absent: it is named by its tones.",
            "longest": 40,
            "initial": ""
          },
          "tones": {
            "title": "Tones",
            "doc": "Its tones, no two on one pitch; absent: the key's first, third and fifth degree.",
            "low": 1,
            "high": 16,
            "fields": {
              "degree": {
                "title": "Degree",
                "doc": "The degree of the key, from 1 up to its number of degrees.",
                "low": 1,
                "high": 12,
                "initial": 1
              },
              "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
              "alter": {
                "title": "Alter",
                "doc": "Semitones from the degree.",
                "unit": "semitones",
                "low": -11,
                "high": 11,
                "initial": 0
              }
            }
          }
        }
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "keys"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 15
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 85
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 20
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {
            "title": "On",
            "doc": "The field that it moves.",
            "choices": ["velocity", "gate", "chance", "ratchet", "nudge", "inversion", "strum"]
          },
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "odds": {
        "title": "Odds",
        "doc": "The alternatives of which each sounding step draws one by weight.",
        "low": 0,
        "high": 16,
        "fields": {
          "weight": {
            "title": "Weight",
            "doc": "How often it is drawn, against the others.",
            "low": 1,
            "high": 100,
            "initial": 1
          },
          "rest": {"title": "Rest", "doc": "The step rests.", "initial": false},
          "degrees": {
            "title": "Degrees",
            "doc": "Degrees added, or in a phrase steps along the scale.",
            "low": -24,
            "high": 24
          },
          "octave": {"title": "Octave", "doc": "Octaves added.", "low": -8, "high": 8},
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8},
          "velocity": {"title": "Velocity", "doc": "Added to the velocity.", "low": -126, "high": 126},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "low": 1, "high": 400}
        }
      },
      "take": {
        "title": "Take",
        "doc": "Which draw of all that luck decides in it; 0: the first.",
        "low": 0,
        "high": 9999,
        "initial": 0
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["odds", "range", "chance", "rounds", "groove"]
      },
      "steps": {
        "title": "Steps",
        "doc": "The steps; absent: 16 rests.",
        "low": 1,
        "high": 512,
        "fields": {
          "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
          "chord": {
            "title": "Chord",
            "doc": "Its chord's place in the palette, from 1.",
            "low": 1,
            "high": 32,
            "initial": 1
          },
          "octave": {
            "title": "Octave",
            "doc": "Octaves by which the whole chord is moved.",
            "low": -4,
            "high": 4,
            "initial": 0
          },
          "inversion": {
            "title": "Inversion",
            "doc": "How many times the lowest tone goes up an octave, below 0 the highest down.",
            "low": -8,
            "high": 8,
            "initial": 0
          },
          "strum": {
            "title": "Strum",
            "doc": "Lets the tones begin one after another.",
            "fields": {
              "time": {
                "title": "Time",
                "doc": "From the first tone to the last, in % of the step.",
                "unit": "%",
                "low": 0,
                "high": 100,
                "initial": 0
              },
              "way": {
                "title": "Way",
                "doc": "From the lowest tone up, from the highest down, or in turns.",
                "choices": ["up", "down", "turns"],
                "initial": "up"
              }
            }
          },
          "glide": {
            "title": "Glide",
            "doc": "Slides into its tones, where the lane's chords glide.",
            "fields": {
              "time": {
                "title": "Time",
                "doc": "How long it takes, in % of the step.",
                "unit": "%",
                "low": 0,
                "high": 400,
                "initial": 50
              },
              "curve": {
                "title": "Curve",
                "doc": "0 linear, above starts slowly, below starts fast.",
                "low": -100,
                "high": 100,
                "initial": 0
              },
              "from": {
                "title": "From",
                "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
                "unit": "semitones",
                "low": -24,
                "high": 24
              }
            }
          },
          "bend": {
            "title": "Bend",
            "doc": "A bend over its tones, where the lane's chords glide, in rising order of at.",
            "low": 0,
            "high": 16,
            "fields": {
              "at": {
                "title": "At",
                "doc": "Where, in % of the note's length, with three decimals at most.",
                "unit": "%",
                "low": 0,
                "high": 100,
                "decimals": 3,
                "initial": 0
              },
              "by": {
                "title": "By",
                "doc": "How far, in semitones.",
                "unit": "semitones",
                "low": -24,
                "high": 24,
                "initial": 0
              },
              "curve": {
                "title": "Curve",
                "doc": "The curve of the way to this point.",
                "low": -100,
                "high": 100,
                "initial": 0
              }
            }
          },
          "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
          "gate": {
            "title": "Gate",
            "doc": "How long, in % of the step.",
            "unit": "%",
            "low": 1,
            "high": 400,
            "initial": 100
          },
          "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
          "nudge": {
            "title": "Nudge",
            "doc": "Earlier or later, in % of the step.",
            "unit": "%",
            "low": -50,
            "high": 50,
            "initial": 0
          },
          "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
        }
      }
    },
    "phrase": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "rate": {
        "title": "Rate",
        "doc": "The length of one step.",
        "choices": ["4bar", "2bar", "1bar", "1/1D", "1/1", "1/1T", "1/2D", "1/2", "1/2T", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16", "1/16T", "1/32D", "1/32", "1/32T", "1/64D", "1/64", "1/64T"],
        "initial": "1/16"
      },
      "direction": {
        "title": "Way",
        "doc": "The order of the steps.",
        "choices": ["forward", "reverse", "pendulum", "shuffle"],
        "initial": "forward"
      },
      "window": {
        "title": "Window",
        "doc": "The run of steps that plays; absent: all.",
        "fields": {
          "start": {"title": "Start", "doc": "The first step, from 1.", "low": 1, "high": 512, "initial": 1},
          "count": {
            "title": "Count",
            "doc": "How many steps; absent: to the last.",
            "low": 1,
            "high": 512,
            "initial": 512
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "octave": {
        "title": "Octave",
        "doc": "The octave of the tonic at step octave 0; middle C is C4.",
        "low": -1,
        "high": 9,
        "initial": 3
      },
      "lock": {
        "title": "Lock",
        "doc": "What altered pitches are snapped to when rendering.",
        "choices": ["scale", "chord", "off"],
        "initial": "scale"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "follow": {"title": "Follow", "doc": "What degrees count from.", "choices": ["key", "root"], "initial": "key"},
      "roots": {
        "title": "Roots",
        "doc": "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
        "choices": ["up", "near"],
        "initial": "up"
      },
      "source": {
        "title": "Source",
        "doc": "Whose tones it walks: those of the sounding chord, or its own.",
        "choices": ["harmony", "own"],
        "initial": "harmony"
      },
      "tones": {
        "title": "Tones",
        "doc": "Tones of its own.",
        "low": 0,
        "high": 16,
        "fields": {
          "degree": {
            "title": "Degree",
            "doc": "The degree of the key, from 1 up to its number of degrees.",
            "low": 1,
            "high": 12,
            "initial": 1
          },
          "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
          "alter": {
            "title": "Alter",
            "doc": "Semitones from the degree.",
            "unit": "semitones",
            "low": -11,
            "high": 11,
            "initial": 0
          }
        }
      },
      "order": {"title": "Order", "doc": "The order of the walk: a name, or a list of rungs from 1."},
      "span": {
        "title": "Span",
        "doc": "How many times it goes through the tones, each pass a leap higher.",
        "low": 1,
        "high": 8,
        "initial": 1
      },
      "leap": {
        "title": "Leap",
        "doc": "The leap from pass to pass.",
        "fields": {
          "by": {"title": "By", "doc": "Semitones, or steps of the scale.", "low": -24, "high": 24, "initial": 12},
          "in": {
            "title": "In",
            "doc": "What it is counted in.",
            "choices": ["scale", "semitones"],
            "initial": "semitones"
          }
        }
      },
      "walk": {
        "title": "Walk",
        "doc": "When the walk starts over: when a chord begins, with each round, or never.",
        "choices": ["chord", "round", "never"],
        "initial": "chord"
      },
      "voices": {
        "title": "Voices",
        "doc": "How many places of the order sound together.",
        "low": 1,
        "high": 4,
        "initial": 1
      },
      "repeats": {
        "title": "Repeats",
        "doc": "Whether a ratchet repeats its tone or walks on.",
        "choices": ["tone", "walk"],
        "initial": "tone"
      },
      "pedal": {
        "title": "Pedal",
        "doc": "A tone that sounds with every step; absent: none.",
        "fields": {
          "tone": {
            "title": "Tone",
            "doc": "The chord's root, or its lowest tone.",
            "choices": ["root", "low"],
            "initial": "root"
          },
          "octave": {"title": "Octave", "doc": "By how many octaves it is moved.", "low": -4, "high": 4, "initial": -1}
        }
      },
      "glide": {
        "title": "Glide",
        "doc": "How glides are written.",
        "fields": {
          "mode": {
            "title": "Written",
            "doc": "With the bend wheel, as overlapping notes with portamento, or each note by itself (mpe).",
            "choices": ["bend", "legato", "mpe"],
            "initial": "bend"
          },
          "range": {
            "title": "Range",
            "doc": "The bend wheel's range in semitones; absent: 12, of mpe 48.",
            "unit": "semitones",
            "low": 1,
            "high": 96
          }
        }
      },
      "rhythm": {
        "title": "Rhythm",
        "doc": "Another lane, whose onsets take the pattern's steps; absent: its own rate does.",
        "fields": {"lane": {"title": "Lane", "doc": "Its id, in the same clip."}}
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "pluck"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 10
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 65
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 0
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {
            "title": "On",
            "doc": "The field that it moves.",
            "choices": ["velocity", "gate", "chance", "ratchet", "nudge", "offset", "octave", "span", "leap", "voices", "order"]
          },
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "odds": {
        "title": "Odds",
        "doc": "The alternatives of which each sounding step draws one by weight.",
        "low": 0,
        "high": 16,
        "fields": {
          "weight": {
            "title": "Weight",
            "doc": "How often it is drawn, against the others.",
            "low": 1,
            "high": 100,
            "initial": 1
          },
          "rest": {"title": "Rest", "doc": "The step rests.", "initial": false},
          "degrees": {
            "title": "Degrees",
            "doc": "Degrees added, or in a phrase steps along the scale.",
            "low": -24,
            "high": 24
          },
          "octave": {"title": "Octave", "doc": "Octaves added.", "low": -8, "high": 8},
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8},
          "velocity": {"title": "Velocity", "doc": "Added to the velocity.", "low": -126, "high": 126},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "low": 1, "high": 400}
        }
      },
      "take": {
        "title": "Take",
        "doc": "Which draw of all that luck decides in it; 0: the first.",
        "low": 0,
        "high": 9999,
        "initial": 0
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["odds", "range", "chance", "rounds", "groove"]
      },
      "steps": {
        "title": "Steps",
        "doc": "The steps; absent: 16 rests.",
        "low": 1,
        "high": 512,
        "fields": {
          "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
          "play": {
            "title": "Play",
            "doc": "What it plays: the walk's next place, the one before, the same again, or a tone of its own choice.",
            "choices": ["next", "back", "again", "low", "high", "root", "chord"],
            "initial": "next"
          },
          "offset": {
            "title": "Offset",
            "doc": "By how much what it plays is moved.",
            "low": -24,
            "high": 24,
            "initial": 0
          },
          "in": {
            "title": "In",
            "doc": "What the offset is counted in.",
            "choices": ["scale", "semitones"],
            "initial": "scale"
          },
          "octave": {"title": "Octave", "doc": "Octaves by which it is moved.", "low": -4, "high": 4, "initial": 0},
          "glide": {
            "title": "Glide",
            "doc": "Slides into what it plays, where that is one tone.",
            "fields": {
              "time": {
                "title": "Time",
                "doc": "How long it takes, in % of the step.",
                "unit": "%",
                "low": 0,
                "high": 400,
                "initial": 50
              },
              "curve": {
                "title": "Curve",
                "doc": "0 linear, above starts slowly, below starts fast.",
                "low": -100,
                "high": 100,
                "initial": 0
              },
              "from": {
                "title": "From",
                "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
                "unit": "semitones",
                "low": -24,
                "high": 24
              }
            }
          },
          "bend": {
            "title": "Bend",
            "doc": "A bend over its one tone, in rising order of at.",
            "low": 0,
            "high": 16,
            "fields": {
              "at": {
                "title": "At",
                "doc": "Where, in % of the note's length, with three decimals at most.",
                "unit": "%",
                "low": 0,
                "high": 100,
                "decimals": 3,
                "initial": 0
              },
              "by": {
                "title": "By",
                "doc": "How far, in semitones.",
                "unit": "semitones",
                "low": -24,
                "high": 24,
                "initial": 0
              },
              "curve": {
                "title": "Curve",
                "doc": "The curve of the way to this point.",
                "low": -100,
                "high": 100,
                "initial": 0
              }
            }
          },
          "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "unit": "%", "low": 1, "high": 400},
          "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
          "nudge": {
            "title": "Nudge",
            "doc": "Earlier or later, in % of the step.",
            "unit": "%",
            "low": -50,
            "high": 50,
            "initial": 0
          },
          "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
        }
      }
    },
    "pulse": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "rate": {
        "title": "Rate",
        "doc": "The length of one step.",
        "choices": ["4bar", "2bar", "1bar", "1/1D", "1/1", "1/1T", "1/2D", "1/2", "1/2T", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16", "1/16T", "1/32D", "1/32", "1/32T", "1/64D", "1/64", "1/64T"],
        "initial": "1/16"
      },
      "direction": {
        "title": "Way",
        "doc": "The order of the steps.",
        "choices": ["forward", "reverse", "pendulum", "shuffle"],
        "initial": "forward"
      },
      "window": {
        "title": "Window",
        "doc": "The run of steps that plays; absent: all.",
        "fields": {
          "start": {"title": "Start", "doc": "The first step, from 1.", "low": 1, "high": 512, "initial": 1},
          "count": {
            "title": "Count",
            "doc": "How many steps; absent: to the last.",
            "low": 1,
            "high": 512,
            "initial": 512
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "octave": {
        "title": "Octave",
        "doc": "The octave of the tonic at step octave 0; middle C is C4.",
        "low": -1,
        "high": 9,
        "initial": 3
      },
      "lock": {
        "title": "Lock",
        "doc": "What altered pitches are snapped to when rendering.",
        "choices": ["scale", "chord", "off"],
        "initial": "scale"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "follow": {"title": "Follow", "doc": "What degrees count from.", "choices": ["key", "root"], "initial": "key"},
      "roots": {
        "title": "Roots",
        "doc": "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
        "choices": ["up", "near"],
        "initial": "up"
      },
      "note": {
        "title": "Note",
        "doc": "The MIDI note; absent, without a pitch: 36. The key leaves it alone.",
        "low": 0,
        "high": 127
      },
      "pitch": {
        "title": "Pitch",
        "doc": "A pitch of the key, in place of a note.",
        "fields": {
          "degree": {
            "title": "Degree",
            "doc": "The degree of the key, from 1 up to its number of degrees.",
            "low": 1,
            "high": 12,
            "initial": 1
          },
          "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
          "alter": {
            "title": "Alter",
            "doc": "Semitones from the degree.",
            "unit": "semitones",
            "low": -11,
            "high": 11,
            "initial": 0
          }
        }
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "kit"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 0
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 40
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 0
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 40
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {
            "title": "On",
            "doc": "The field that it moves.",
            "choices": ["velocity", "gate", "chance", "ratchet", "nudge"]
          },
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "odds": {
        "title": "Odds",
        "doc": "The alternatives of which each sounding step draws one by weight.",
        "low": 0,
        "high": 16,
        "fields": {
          "weight": {
            "title": "Weight",
            "doc": "How often it is drawn, against the others.",
            "low": 1,
            "high": 100,
            "initial": 1
          },
          "rest": {"title": "Rest", "doc": "The step rests.", "initial": false},
          "degrees": {
            "title": "Degrees",
            "doc": "Degrees added, or in a phrase steps along the scale.",
            "low": -24,
            "high": 24
          },
          "octave": {"title": "Octave", "doc": "Octaves added.", "low": -8, "high": 8},
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8},
          "velocity": {"title": "Velocity", "doc": "Added to the velocity.", "low": -126, "high": 126},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "low": 1, "high": 400}
        }
      },
      "take": {
        "title": "Take",
        "doc": "Which draw of all that luck decides in it; 0: the first.",
        "low": 0,
        "high": 9999,
        "initial": 0
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["odds", "range", "chance", "rounds", "groove"]
      },
      "steps": {
        "title": "Steps",
        "doc": "The steps; absent: 16 rests.",
        "low": 1,
        "high": 512,
        "fields": {
          "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
          "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
          "gate": {
            "title": "Gate",
            "doc": "How long, in % of the step.",
            "unit": "%",
            "low": 1,
            "high": 400,
            "initial": 75
          },
          "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
          "nudge": {
            "title": "Nudge",
            "doc": "Earlier or later, in % of the step.",
            "unit": "%",
            "low": -50,
            "high": 50,
            "initial": 0
          },
          "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
        }
      }
    },
    "control": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "rate": {
        "title": "Rate",
        "doc": "The length of one step.",
        "choices": ["4bar", "2bar", "1bar", "1/1D", "1/1", "1/1T", "1/2D", "1/2", "1/2T", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16", "1/16T", "1/32D", "1/32", "1/32T", "1/64D", "1/64", "1/64T"],
        "initial": "1/16"
      },
      "direction": {
        "title": "Way",
        "doc": "The order of the steps.",
        "choices": ["forward", "reverse", "pendulum", "shuffle"],
        "initial": "forward"
      },
      "window": {
        "title": "Window",
        "doc": "The run of steps that plays; absent: all.",
        "fields": {
          "start": {"title": "Start", "doc": "The first step, from 1.", "low": 1, "high": 512, "initial": 1},
          "count": {
            "title": "Count",
            "doc": "How many steps; absent: to the last.",
            "low": 1,
            "high": 512,
            "initial": 512
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "to": {"title": "To", "doc": "The lane on whose channel it acts."},
      "target": {"title": "Target", "doc": "What it moves: the wheel, the channel's pressure, or a controller."},
      "follows": {
        "title": "Follows",
        "doc": "A lane whose pitches set the values, instead of its steps.",
        "fields": {
          "lane": {"title": "Lane", "doc": "Its id, in the same clip."},
          "low": {"title": "Low", "doc": "The pitch at one end.", "low": 0, "high": 127, "initial": 36},
          "high": {
            "title": "High",
            "doc": "The pitch at the other end, above low.",
            "low": 0,
            "high": 127,
            "initial": 60
          },
          "sides": {
            "title": "Sides",
            "doc": "From low to high, or from the middle to both ends.",
            "choices": ["up", "both"],
            "initial": "up"
          },
          "from": {
            "title": "From",
            "doc": "The value at low, or in the middle.",
            "low": -100,
            "high": 127,
            "initial": 0
          },
          "to": {
            "title": "To",
            "doc": "The value at high, or at both ends.",
            "low": -100,
            "high": 127,
            "initial": 127
          }
        }
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {"title": "On", "doc": "The field that it moves.", "choices": ["chance", "nudge", "value"]},
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["chance", "rounds", "groove"]
      },
      "steps": {
        "title": "Steps",
        "doc": "The steps; absent: 16 rests.",
        "low": 1,
        "high": 512,
        "fields": {
          "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
          "value": {
            "title": "Value",
            "doc": "0..127, or -100..100 % of the wheel's range.",
            "low": -100,
            "high": 127,
            "initial": 0
          },
          "shape": {"title": "Shape", "doc": "How it goes to the next value: it holds, or moves on a line or a curve."},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "nudge": {
            "title": "Nudge",
            "doc": "Earlier or later, in % of the step.",
            "unit": "%",
            "low": -50,
            "high": 50,
            "initial": 0
          },
          "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
        }
      }
    },
    "layer": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "of": {"title": "Of", "doc": "The lane whose notes it plays."},
      "octave": {"title": "Octave", "doc": "Octaves by which they are moved.", "low": -4, "high": 4, "initial": 0},
      "degrees": {
        "title": "Degrees",
        "doc": "Steps of the scale by which they are moved.",
        "low": -14,
        "high": 14,
        "initial": 0
      },
      "semitones": {
        "title": "Semitones",
        "doc": "Semitones by which they are moved.",
        "unit": "semitones",
        "low": -48,
        "high": 48,
        "initial": 0
      },
      "velocity": {"title": "Velocity", "doc": "Added to their velocity.", "low": -126, "high": 126, "initial": 0},
      "gate": {
        "title": "Gate",
        "doc": "How long, in % of each note's length.",
        "unit": "%",
        "low": 1,
        "high": 400,
        "initial": 100
      },
      "keep": {
        "title": "Keep",
        "doc": "Which of them it plays: all, those struck at 110 and above, those on the meter's unit, those that are tones of the chord, or one of every few."
      },
      "lock": {
        "title": "Lock",
        "doc": "What moved pitches are snapped to.",
        "choices": ["scale", "chord", "off"],
        "initial": "off"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "bass"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 20
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 40
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 70
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {"title": "Share", "doc": "How far it takes part in the groove; absent: as its original does."},
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["range", "groove", "layer-keep"]
      }
    },
    "notes": {
      "id": {"title": "Id", "doc": "Its id, alone of its kind in the clip; absent: lane1, lane2 .."},
      "name": {"title": "Name", "doc": "Its name; absent: its id.", "longest": 80, "initial": ""},
      "kind": {"title": "Kind", "doc": "What the lane holds; it cannot be changed."},
      "octave": {
        "title": "Octave",
        "doc": "The octave of the tonic at step octave 0; middle C is C4.",
        "low": -1,
        "high": 9,
        "initial": 3
      },
      "lock": {
        "title": "Lock",
        "doc": "What altered pitches are snapped to when rendering.",
        "choices": ["scale", "chord", "off"],
        "initial": "scale"
      },
      "snap": {
        "title": "Snap",
        "doc": "Which way they are snapped; nearest takes the lower of two.",
        "choices": ["nearest", "up", "down"],
        "initial": "nearest"
      },
      "follow": {"title": "Follow", "doc": "What degrees count from.", "choices": ["key", "root"], "initial": "key"},
      "roots": {
        "title": "Roots",
        "doc": "In which octave roots that it follows lie: from the tonic upwards, or near it, so that a bass stays a bass.",
        "choices": ["up", "near"],
        "initial": "up"
      },
      "glide": {
        "title": "Glide",
        "doc": "How glides are written.",
        "fields": {
          "mode": {
            "title": "Written",
            "doc": "With the bend wheel, as overlapping notes with portamento, or each note by itself (mpe).",
            "choices": ["bend", "legato", "mpe"],
            "initial": "bend"
          },
          "range": {
            "title": "Range",
            "doc": "The bend wheel's range in semitones; absent: 12, of mpe 48.",
            "unit": "semitones",
            "low": 1,
            "high": 96
          }
        }
      },
      "loop": {
        "title": "Loop",
        "doc": "Its round; absent: from 0 for the clip's bars, or up to the bar line after its last note begins.",
        "fields": {
          "start": {
            "title": "Start",
            "doc": "Where it begins, in 960ths of a quarter note.",
            "low": 0,
            "high": 125829119,
            "initial": 0
          },
          "length": {
            "title": "Length",
            "doc": "How long it is, in 960ths of a quarter note.",
            "low": 1,
            "high": 125829120,
            "initial": 1
          }
        }
      },
      "voices": {
        "title": "Voices",
        "doc": "Whether many notes sound at a time, or one.",
        "choices": ["many", "one"],
        "initial": "many"
      },
      "bypass": {
        "title": "Bypass",
        "doc": "What stays in the document and is as if it were not there.",
        "choices": ["odds", "range", "chance", "rounds", "groove"]
      },
      "notes": {
        "title": "Notes",
        "doc": "Its notes.",
        "low": 0,
        "high": 20000,
        "fields": {
          "at": {
            "title": "At",
            "doc": "Where it begins, in 960ths of a quarter note.",
            "low": 0,
            "high": 125829119,
            "initial": 0
          },
          "length": {
            "title": "Length",
            "doc": "How long it is, in 960ths of a quarter note.",
            "low": 1,
            "high": 125829120,
            "initial": 1
          },
          "degree": {
            "title": "Degree",
            "doc": "The degree of the key, from 1 up to its number of degrees.",
            "low": 1,
            "high": 12,
            "initial": 1
          },
          "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
          "alter": {
            "title": "Alter",
            "doc": "Semitones from the degree.",
            "unit": "semitones",
            "low": -11,
            "high": 11,
            "initial": 0
          },
          "note": {
            "title": "Note",
            "doc": "A MIDI note in place of a degree. The key leaves it alone.",
            "low": 0,
            "high": 127
          },
          "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
          "chance": {
            "title": "Chance",
            "doc": "In what share of rounds it plays, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "rounds": {
            "title": "Rounds",
            "doc": "Plays only in some rounds.",
            "fields": {
              "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
              "on": {"title": "On", "doc": "It plays in these, counted from 1."}
            }
          },
          "tie": {"title": "Tie", "doc": "Joins it, in one voice, to the next note that sounds.", "initial": false},
          "glide": {
            "title": "Glide",
            "doc": "Slides into its pitch, in one voice or with the mode mpe; the time is in % of its length.",
            "fields": {
              "time": {
                "title": "Time",
                "doc": "How long it takes, in % of the step.",
                "unit": "%",
                "low": 0,
                "high": 400,
                "initial": 50
              },
              "curve": {
                "title": "Curve",
                "doc": "0 linear, above starts slowly, below starts fast.",
                "low": -100,
                "high": 100,
                "initial": 0
              },
              "from": {
                "title": "From",
                "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
                "unit": "semitones",
                "low": -24,
                "high": 24
              }
            }
          },
          "bend": {
            "title": "Bend",
            "doc": "A bend over the sounding note, in one voice or with the mode mpe, in rising order of at.",
            "low": 0,
            "high": 16,
            "fields": {
              "at": {
                "title": "At",
                "doc": "Where, in % of the note's length, with three decimals at most.",
                "unit": "%",
                "low": 0,
                "high": 100,
                "decimals": 3,
                "initial": 0
              },
              "by": {
                "title": "By",
                "doc": "How far, in semitones.",
                "unit": "semitones",
                "low": -24,
                "high": 24,
                "initial": 0
              },
              "curve": {
                "title": "Curve",
                "doc": "The curve of the way to this point.",
                "low": -100,
                "high": 100,
                "initial": 0
              }
            }
          },
          "number": {
            "title": "Number",
            "doc": "Its number, once in the lane; absent: the lowest that is not given, in the order of writing.",
            "low": 1,
            "high": 1000000
          }
        }
      },
      "restart": {
        "title": "Restart",
        "doc": "The pattern begins again after so many bars; 0: never.",
        "unit": "bars",
        "low": 0,
        "high": 64,
        "initial": 0
      },
      "channel": {
        "title": "Channel",
        "doc": "The MIDI channel, 1..16; 0 or absent: by position, leaving 10 out.",
        "low": 0,
        "high": 16,
        "initial": 0
      },
      "mute": {"title": "Mute", "doc": "Leaves the lane out.", "initial": false},
      "solo": {"title": "Solo", "doc": "Leaves out every lane that is not solo.", "initial": false},
      "starter": {"title": "Starter", "doc": "The starter that it was begun from.", "longest": 80, "initial": ""},
      "quiet": {
        "title": "Quiet",
        "doc": "Rules of the review that are quiet for this lane.",
        "choices": ["clash", "chord-share", "bass-over", "rub", "parallel", "muddy", "too-low", "over-kick", "no-breath", "one-velocity", "seam", "halves", "late", "realign", "rounds", "glide-range", "glide-start", "folded", "range", "clamped", "outside-loop", "voices", "no-harmony", "no-chord", "no-glides", "voicing-range", "hardly-moves", "modulator-idle", "modulator-key", "drum-channel", "channel", "two-wheels", "zone-channel", "zone-layer", "zone-voices"]
      },
      "sound": {
        "title": "Sound",
        "doc": "The voice for listening.",
        "fields": {
          "voice": {
            "title": "Voice",
            "doc": "Which stand-in plays the lane.",
            "choices": ["bass", "sub", "pluck", "lead", "bell", "keys", "pad", "kit"],
            "initial": "bass"
          },
          "wave": {
            "title": "Wave",
            "doc": "The oscillator's wave.",
            "choices": ["saw", "pulse", "triangle"],
            "initial": "saw"
          },
          "width": {
            "title": "Width",
            "doc": "How much of its period a pulse is up, in %.",
            "unit": "%",
            "low": 5,
            "high": 95,
            "initial": 35
          },
          "level": {"title": "Level", "doc": "Loudness, in %.", "unit": "%", "low": 0, "high": 100, "initial": 70},
          "pan": {
            "title": "Pan",
            "doc": "Where it stands: -100 is left, 0 the middle, 100 right.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "cutoff": {
            "title": "Cutoff",
            "doc": "The filter's cutoff, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 45
          },
          "resonance": {
            "title": "Resonance",
            "doc": "The filter's resonance, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "envelope": {
            "title": "Envelope",
            "doc": "How far the envelope opens the filter, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "attack": {
            "title": "Attack",
            "doc": "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 20
          },
          "decay": {
            "title": "Decay",
            "doc": "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 40
          },
          "sustain": {
            "title": "Sustain",
            "doc": "The level that a held note comes to; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 70
          },
          "release": {
            "title": "Release",
            "doc": "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio; absent: as the voice has it.",
            "low": 0,
            "high": 100,
            "initial": 30
          },
          "touch": {
            "title": "Velocity to level",
            "doc": "How far velocity acts on the level, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "accent": {
            "title": "Velocity to filter",
            "doc": "How far velocity acts on the filter, accents (from 110) most, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 50
          },
          "drive": {"title": "Drive", "doc": "Overdrive, in %.", "unit": "%", "low": 0, "high": 100, "initial": 20},
          "delay": {"title": "Echo", "doc": "Echo, in %.", "unit": "%", "low": 0, "high": 100, "initial": 0},
          "delayRate": {
            "title": "Echo rate",
            "doc": "After which note value the echo comes back, in time with the tempo.",
            "choices": ["1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"],
            "initial": "1/8D"
          },
          "feedback": {
            "title": "Feedback",
            "doc": "How much of an echo comes back once more, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 35
          },
          "reverb": {
            "title": "Reverb",
            "doc": "How much of a small room is heard, in %.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          }
        }
      },
      "modulators": {
        "title": "Modulators",
        "doc": "What moves its values in time, one after another.",
        "low": 0,
        "high": 8,
        "fields": {
          "on": {
            "title": "On",
            "doc": "The field that it moves.",
            "choices": ["velocity", "gate", "chance", "degree", "octave"]
          },
          "shape": {
            "title": "Shape",
            "doc": "Its shape over a period.",
            "choices": ["sine", "triangle", "rise", "fall", "square", "steps", "jump", "drift"],
            "initial": "sine"
          },
          "every": {"title": "Every", "doc": "Its period: a rate, or 1..64 bars as 3bar.", "initial": "1bar"},
          "phase": {
            "title": "Phase",
            "doc": "How far into its period it begins.",
            "unit": "%",
            "low": 0,
            "high": 99,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "One end of what it gives, in the field's unit.",
            "low": -400,
            "high": 400,
            "initial": 0
          },
          "to": {"title": "To", "doc": "The other end.", "low": -400, "high": 400, "initial": 0},
          "way": {
            "title": "Way",
            "doc": "Whether it replaces the field's value or adds to it.",
            "choices": ["set", "add"],
            "initial": "set"
          },
          "values": {"title": "Values", "doc": "The values of shape steps, in % of the way from one end to the other."},
          "off": {"title": "Off", "doc": "It stays, and is as if it were not there.", "initial": false}
        }
      },
      "odds": {
        "title": "Odds",
        "doc": "The alternatives of which each sounding note draws one by weight.",
        "low": 0,
        "high": 16,
        "fields": {
          "weight": {
            "title": "Weight",
            "doc": "How often it is drawn, against the others.",
            "low": 1,
            "high": 100,
            "initial": 1
          },
          "rest": {"title": "Rest", "doc": "The step rests.", "initial": false},
          "degrees": {
            "title": "Degrees",
            "doc": "Degrees added, or in a phrase steps along the scale.",
            "low": -24,
            "high": 24
          },
          "octave": {"title": "Octave", "doc": "Octaves added.", "low": -8, "high": 8},
          "velocity": {"title": "Velocity", "doc": "Added to the velocity.", "low": -126, "high": 126},
          "gate": {"title": "Gate", "doc": "How long, in % of the step.", "low": 1, "high": 400}
        }
      },
      "take": {
        "title": "Take",
        "doc": "Which draw of all that luck decides in it; 0: the first.",
        "low": 0,
        "high": 9999,
        "initial": 0
      },
      "range": {
        "title": "Range",
        "doc": "The pitches that its notes keep to; absent: all.",
        "fields": {
          "low": {"title": "Low", "doc": "The lowest MIDI pitch.", "low": 0, "high": 127, "initial": 0},
          "high": {"title": "High", "doc": "The highest MIDI pitch.", "low": 0, "high": 127, "initial": 127},
          "outside": {
            "title": "Outside",
            "doc": "A note outside is moved in by octaves, or left out.",
            "choices": ["fold", "drop"],
            "initial": "fold"
          }
        }
      },
      "share": {
        "title": "Share",
        "doc": "How far it takes part in the groove.",
        "fields": {
          "timing": {
            "title": "Timing",
            "doc": "Of its timing, swing included.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          },
          "velocity": {
            "title": "Velocity",
            "doc": "Of its velocities.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 100
          }
        }
      }
    }
  },
  "step": {
    "line": {
      "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
      "degree": {
        "title": "Degree",
        "doc": "The degree of the key, from 1 up to its number of degrees.",
        "low": 1,
        "high": 12,
        "initial": 1
      },
      "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
      "alter": {
        "title": "Alter",
        "doc": "Semitones from the degree.",
        "unit": "semitones",
        "low": -11,
        "high": 11,
        "initial": 0
      },
      "glide": {
        "title": "Glide",
        "doc": "Slides into the step's pitch.",
        "fields": {
          "time": {
            "title": "Time",
            "doc": "How long it takes, in % of the step.",
            "unit": "%",
            "low": 0,
            "high": 400,
            "initial": 50
          },
          "curve": {
            "title": "Curve",
            "doc": "0 linear, above starts slowly, below starts fast.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
            "unit": "semitones",
            "low": -24,
            "high": 24
          }
        }
      },
      "bend": {
        "title": "Bend",
        "doc": "A bend over the sounding note, in rising order of at.",
        "low": 0,
        "high": 16,
        "fields": {
          "at": {
            "title": "At",
            "doc": "Where, in % of the note's length, with three decimals at most.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "decimals": 3,
            "initial": 0
          },
          "by": {
            "title": "By",
            "doc": "How far, in semitones.",
            "unit": "semitones",
            "low": -24,
            "high": 24,
            "initial": 0
          },
          "curve": {
            "title": "Curve",
            "doc": "The curve of the way to this point.",
            "low": -100,
            "high": 100,
            "initial": 0
          }
        }
      },
      "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
      "gate": {
        "title": "Gate",
        "doc": "How long, in % of the step.",
        "unit": "%",
        "low": 1,
        "high": 400,
        "initial": 75
      },
      "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
      "nudge": {
        "title": "Nudge",
        "doc": "Earlier or later, in % of the step.",
        "unit": "%",
        "low": -50,
        "high": 50,
        "initial": 0
      },
      "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
    },
    "chords": {
      "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
      "chord": {
        "title": "Chord",
        "doc": "Its chord's place in the palette, from 1.",
        "low": 1,
        "high": 32,
        "initial": 1
      },
      "octave": {
        "title": "Octave",
        "doc": "Octaves by which the whole chord is moved.",
        "low": -4,
        "high": 4,
        "initial": 0
      },
      "inversion": {
        "title": "Inversion",
        "doc": "How many times the lowest tone goes up an octave, below 0 the highest down.",
        "low": -8,
        "high": 8,
        "initial": 0
      },
      "strum": {
        "title": "Strum",
        "doc": "Lets the tones begin one after another.",
        "fields": {
          "time": {
            "title": "Time",
            "doc": "From the first tone to the last, in % of the step.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "initial": 0
          },
          "way": {
            "title": "Way",
            "doc": "From the lowest tone up, from the highest down, or in turns.",
            "choices": ["up", "down", "turns"],
            "initial": "up"
          }
        }
      },
      "glide": {
        "title": "Glide",
        "doc": "Slides into its tones, where the lane's chords glide.",
        "fields": {
          "time": {
            "title": "Time",
            "doc": "How long it takes, in % of the step.",
            "unit": "%",
            "low": 0,
            "high": 400,
            "initial": 50
          },
          "curve": {
            "title": "Curve",
            "doc": "0 linear, above starts slowly, below starts fast.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
            "unit": "semitones",
            "low": -24,
            "high": 24
          }
        }
      },
      "bend": {
        "title": "Bend",
        "doc": "A bend over its tones, where the lane's chords glide, in rising order of at.",
        "low": 0,
        "high": 16,
        "fields": {
          "at": {
            "title": "At",
            "doc": "Where, in % of the note's length, with three decimals at most.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "decimals": 3,
            "initial": 0
          },
          "by": {
            "title": "By",
            "doc": "How far, in semitones.",
            "unit": "semitones",
            "low": -24,
            "high": 24,
            "initial": 0
          },
          "curve": {
            "title": "Curve",
            "doc": "The curve of the way to this point.",
            "low": -100,
            "high": 100,
            "initial": 0
          }
        }
      },
      "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
      "gate": {
        "title": "Gate",
        "doc": "How long, in % of the step.",
        "unit": "%",
        "low": 1,
        "high": 400,
        "initial": 100
      },
      "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
      "nudge": {
        "title": "Nudge",
        "doc": "Earlier or later, in % of the step.",
        "unit": "%",
        "low": -50,
        "high": 50,
        "initial": 0
      },
      "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
    },
    "phrase": {
      "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
      "play": {
        "title": "Play",
        "doc": "What it plays: the walk's next place, the one before, the same again, or a tone of its own choice.",
        "choices": ["next", "back", "again", "low", "high", "root", "chord"],
        "initial": "next"
      },
      "offset": {"title": "Offset", "doc": "By how much what it plays is moved.", "low": -24, "high": 24, "initial": 0},
      "in": {
        "title": "In",
        "doc": "What the offset is counted in.",
        "choices": ["scale", "semitones"],
        "initial": "scale"
      },
      "octave": {"title": "Octave", "doc": "Octaves by which it is moved.", "low": -4, "high": 4, "initial": 0},
      "glide": {
        "title": "Glide",
        "doc": "Slides into what it plays, where that is one tone.",
        "fields": {
          "time": {
            "title": "Time",
            "doc": "How long it takes, in % of the step.",
            "unit": "%",
            "low": 0,
            "high": 400,
            "initial": 50
          },
          "curve": {
            "title": "Curve",
            "doc": "0 linear, above starts slowly, below starts fast.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
            "unit": "semitones",
            "low": -24,
            "high": 24
          }
        }
      },
      "bend": {
        "title": "Bend",
        "doc": "A bend over its one tone, in rising order of at.",
        "low": 0,
        "high": 16,
        "fields": {
          "at": {
            "title": "At",
            "doc": "Where, in % of the note's length, with three decimals at most.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "decimals": 3,
            "initial": 0
          },
          "by": {
            "title": "By",
            "doc": "How far, in semitones.",
            "unit": "semitones",
            "low": -24,
            "high": 24,
            "initial": 0
          },
          "curve": {
            "title": "Curve",
            "doc": "The curve of the way to this point.",
            "low": -100,
            "high": 100,
            "initial": 0
          }
        }
      },
      "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
      "gate": {"title": "Gate", "doc": "How long, in % of the step.", "unit": "%", "low": 1, "high": 400},
      "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
      "nudge": {
        "title": "Nudge",
        "doc": "Earlier or later, in % of the step.",
        "unit": "%",
        "low": -50,
        "high": 50,
        "initial": 0
      },
      "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
    },
    "pulse": {
      "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
      "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
      "gate": {
        "title": "Gate",
        "doc": "How long, in % of the step.",
        "unit": "%",
        "low": 1,
        "high": 400,
        "initial": 75
      },
      "tie": {"title": "Tie", "doc": "Joins the step to the next one.", "initial": false},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "ratchet": {"title": "Ratchet", "doc": "Repeats within the step.", "low": 1, "high": 8, "initial": 1},
      "nudge": {
        "title": "Nudge",
        "doc": "Earlier or later, in % of the step.",
        "unit": "%",
        "low": -50,
        "high": 50,
        "initial": 0
      },
      "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
    },
    "control": {
      "on": {"title": "On", "doc": "Whether a note starts here.", "initial": false},
      "value": {
        "title": "Value",
        "doc": "0..127, or -100..100 % of the wheel's range.",
        "low": -100,
        "high": 127,
        "initial": 0
      },
      "shape": {"title": "Shape", "doc": "How it goes to the next value: it holds, or moves on a line or a curve."},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "nudge": {
        "title": "Nudge",
        "doc": "Earlier or later, in % of the step.",
        "unit": "%",
        "low": -50,
        "high": 50,
        "initial": 0
      },
      "skip": {"title": "Skip", "doc": "Takes the step out of the round.", "initial": false}
    },
    "layer": {},
    "notes": {
      "at": {
        "title": "At",
        "doc": "Where it begins, in 960ths of a quarter note.",
        "low": 0,
        "high": 125829119,
        "initial": 0
      },
      "length": {
        "title": "Length",
        "doc": "How long it is, in 960ths of a quarter note.",
        "low": 1,
        "high": 125829120,
        "initial": 1
      },
      "degree": {
        "title": "Degree",
        "doc": "The degree of the key, from 1 up to its number of degrees.",
        "low": 1,
        "high": 12,
        "initial": 1
      },
      "octave": {"title": "Octave", "doc": "Octaves from the lane's.", "low": -4, "high": 4, "initial": 0},
      "alter": {
        "title": "Alter",
        "doc": "Semitones from the degree.",
        "unit": "semitones",
        "low": -11,
        "high": 11,
        "initial": 0
      },
      "note": {
        "title": "Note",
        "doc": "A MIDI note in place of a degree. The key leaves it alone.",
        "low": 0,
        "high": 127
      },
      "velocity": {"title": "Velocity", "doc": "How hard.", "low": 1, "high": 127, "initial": 100},
      "chance": {
        "title": "Chance",
        "doc": "In what share of rounds it plays, in %.",
        "unit": "%",
        "low": 0,
        "high": 100,
        "initial": 100
      },
      "rounds": {
        "title": "Rounds",
        "doc": "Plays only in some rounds.",
        "fields": {
          "of": {"title": "Of", "doc": "Out of every so many rounds.", "low": 1, "high": 64, "initial": 1},
          "on": {"title": "On", "doc": "It plays in these, counted from 1."}
        }
      },
      "tie": {"title": "Tie", "doc": "Joins it, in one voice, to the next note that sounds.", "initial": false},
      "glide": {
        "title": "Glide",
        "doc": "Slides into its pitch, in one voice or with the mode mpe; the time is in % of its length.",
        "fields": {
          "time": {
            "title": "Time",
            "doc": "How long it takes, in % of the step.",
            "unit": "%",
            "low": 0,
            "high": 400,
            "initial": 50
          },
          "curve": {
            "title": "Curve",
            "doc": "0 linear, above starts slowly, below starts fast.",
            "low": -100,
            "high": 100,
            "initial": 0
          },
          "from": {
            "title": "From",
            "doc": "Where it starts, in semitones from the step's pitch; absent: the lane's previous pitch.",
            "unit": "semitones",
            "low": -24,
            "high": 24
          }
        }
      },
      "bend": {
        "title": "Bend",
        "doc": "A bend over the sounding note, in one voice or with the mode mpe, in rising order of at.",
        "low": 0,
        "high": 16,
        "fields": {
          "at": {
            "title": "At",
            "doc": "Where, in % of the note's length, with three decimals at most.",
            "unit": "%",
            "low": 0,
            "high": 100,
            "decimals": 3,
            "initial": 0
          },
          "by": {
            "title": "By",
            "doc": "How far, in semitones.",
            "unit": "semitones",
            "low": -24,
            "high": 24,
            "initial": 0
          },
          "curve": {
            "title": "Curve",
            "doc": "The curve of the way to this point.",
            "low": -100,
            "high": 100,
            "initial": 0
          }
        }
      },
      "number": {
        "title": "Number",
        "doc": "Its number, once in the lane; absent: the lowest that is not given, in the order of writing.",
        "low": 1,
        "high": 1000000
      }
    }
  }
} as const;

/** How each voice sounds where nothing else is said of it. */
export const voiceSounds = {
  bass: {"voice":"bass","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":20,"decay":40,"sustain":70,"release":30,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  sub: {"voice":"sub","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":25,"decay":50,"sustain":90,"release":33,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  pluck: {"voice":"pluck","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":10,"decay":65,"sustain":0,"release":50,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  lead: {"voice":"lead","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":25,"decay":55,"sustain":75,"release":45,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  bell: {"voice":"bell","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":0,"decay":95,"sustain":0,"release":66,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  keys: {"voice":"keys","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":15,"decay":85,"sustain":20,"release":45,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  pad: {"voice":"pad","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":72,"decay":80,"sustain":100,"release":62,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
  kit: {"voice":"kit","wave":"saw","width":35,"level":70,"pan":0,"cutoff":45,"resonance":30,"envelope":50,"attack":0,"decay":40,"sustain":0,"release":40,"touch":50,"accent":50,"drive":20,"delay":0,"delayRate":"1/8D","feedback":35,"reverb":0},
} as const;
