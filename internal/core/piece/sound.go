package piece

import (
	"agrimony/internal/core/document"
)

// Sound is the built-in voice a lane is heard with. It is never part of a file.
type Sound struct {
	Voice     string `json:"voice"`
	Wave      string `json:"wave"`
	Width     int    `json:"width"`     // 5..95: % of its period that a pulse is up
	Level     int    `json:"level"`     // 0..100
	Pan       int    `json:"pan"`       // -100 (left) .. 100 (right)
	Cutoff    int    `json:"cutoff"`    // 0..100
	Resonance int    `json:"resonance"` // 0..100
	Envelope  int    `json:"envelope"`  // 0..100: how far the envelope opens the filter
	Attack    int    `json:"attack"`    // 0..100: 1 ms to 1 s, evenly by ratio
	Decay     int    `json:"decay"`     // 0..100: 20 ms to 2 s, evenly by ratio
	Sustain   int    `json:"sustain"`   // 0..100: the level that a held note comes to
	Release   int    `json:"release"`   // 0..100: 5 ms to 3 s, evenly by ratio
	Touch     int    `json:"touch"`     // 0..100: how far velocity acts on the level
	Accent    int    `json:"accent"`    // 0..100: how far velocity acts on the filter
	Drive     int    `json:"drive"`     // 0..100
	Delay     int    `json:"delay"`     // 0..100: how much of the echo is heard
	DelayRate string `json:"delayRate"` // after which note value the echo comes back
	Feedback  int    `json:"feedback"`  // 0..100: how much of an echo comes back once more
	Reverb    int    `json:"reverb"`    // 0..100
}

// own is what a voice has of its own where a document does not say otherwise: the values of its envelope, 0..100.
type own struct{ attack, decay, sustain, release int }

// voiceTable lists the voices in the order in which a chooser shows them.
var voiceTable = []struct {
	name string
	own  own
}{
	{"bass", own{attack: 20, decay: 40, sustain: 70, release: 30}},
	{"sub", own{attack: 25, decay: 50, sustain: 90, release: 33}},
	{"pluck", own{attack: 10, decay: 65, sustain: 0, release: 50}},
	{"lead", own{attack: 25, decay: 55, sustain: 75, release: 45}},
	{"bell", own{attack: 0, decay: 95, sustain: 0, release: 66}},
	{"keys", own{attack: 15, decay: 85, sustain: 20, release: 45}},
	{"pad", own{attack: 72, decay: 80, sustain: 100, release: 62}},
	{"kit", own{attack: 0, decay: 40, sustain: 0, release: 40}},
}

// The allowed words of a sound, in the order in which a chooser shows them.
var (
	Voices     = voiceNames()
	Waves      = []string{"saw", "pulse", "triangle"}
	DelayRates = []string{"1/2", "1/4D", "1/4", "1/4T", "1/8D", "1/8", "1/8T", "1/16D", "1/16"}
)

func voiceNames() []string {
	names := make([]string, len(voiceTable))
	for i := range voiceTable {
		names[i] = voiceTable[i].name
	}
	return names
}

func ownOf(voice string) own {
	for i := range voiceTable {
		if voiceTable[i].name == voice {
			return voiceTable[i].own
		}
	}
	return own{}
}

// unsaid stands for a value of an envelope that a document leaves to the voice, until the voice is known.
const unsaid = -1

// An envelopeField is a value whose default is the voice's own.
type envelopeField struct {
	name, doc string
	at        func(*Sound) *int
	of        func(own) int
}

var envelopeFields = []envelopeField{
	{
		"attack", "How soon a note is there: 0 is 1 ms, 100 is 1 s, evenly by ratio, to within 1/e of its top",
		func(s *Sound) *int { return &s.Attack }, func(o own) int { return o.attack },
	},
	{
		"decay", "How soon a note and its filter fall to 1/e of the way to what is held: 0 is 20 ms, 100 is 2 s, evenly by ratio",
		func(s *Sound) *int { return &s.Decay }, func(o own) int { return o.decay },
	},
	{
		"sustain", "The level that a held note comes to",
		func(s *Sound) *int { return &s.Sustain }, func(o own) int { return o.sustain },
	},
	{
		"release", "How soon a note falls to 1/e once it is let go: 0 is 5 ms, 100 is 3 s, evenly by ratio",
		func(s *Sound) *int { return &s.Release }, func(o own) int { return o.release },
	},
}

func (f envelopeField) field(voice string) document.Field[Sound] {
	initial := f.of(ownOf(voice))
	return document.Whole(f.name, 0, 100, initial, f.doc+"; absent: as the voice has it.", f.at).
		Stated(true).
		LeftOut(func(s *Sound) bool { return *f.at(s) == f.of(ownOf(s.Voice)) })
}

func percent(name string, initial int, doc string, at func(*Sound) *int) document.Field[Sound] {
	return document.Whole(name, 0, 100, initial, doc+", in %.", at).In("%")
}

func soundShape(voice string) *document.Shape[Sound] {
	fields := []document.Field[Sound]{
		document.Choice("voice", Voices, voice, "Which stand-in plays the lane.", func(s *Sound) *string { return &s.Voice }),
		document.Choice("wave", Waves, "saw", "The oscillator's wave.", func(s *Sound) *string { return &s.Wave }),
		document.Whole("width", 5, 95, 35, "How much of its period a pulse is up, in %.", func(s *Sound) *int { return &s.Width }).In("%"),
		percent("level", 70, "Loudness", func(s *Sound) *int { return &s.Level }),
		document.Whole("pan", -100, 100, 0, "Where it stands: -100 is left, 0 the middle, 100 right.", func(s *Sound) *int { return &s.Pan }),
		percent("cutoff", 45, "The filter's cutoff", func(s *Sound) *int { return &s.Cutoff }),
		percent("resonance", 30, "The filter's resonance", func(s *Sound) *int { return &s.Resonance }),
		percent("envelope", 50, "How far the envelope opens the filter", func(s *Sound) *int { return &s.Envelope }),
	}
	for _, f := range envelopeFields {
		fields = append(fields, f.field(voice))
	}
	fields = append(fields,
		percent("touch", 50, "How far velocity acts on the level", func(s *Sound) *int { return &s.Touch }).Titled("Velocity to level"),
		percent("accent", 50, "How far velocity acts on the filter, accents (from 110) most", func(s *Sound) *int { return &s.Accent }).
			Titled("Velocity to filter"),
		percent("drive", 20, "Overdrive", func(s *Sound) *int { return &s.Drive }),
		percent("delay", 0, "Echo", func(s *Sound) *int { return &s.Delay }).Titled("Echo"),
		document.Choice("delayRate", DelayRates, "1/8D", "After which note value the echo comes back, in time with the tempo.",
			func(s *Sound) *string { return &s.DelayRate }).Titled("Echo rate"),
		percent("feedback", 35, "How much of an echo comes back once more", func(s *Sound) *int { return &s.Feedback }),
		percent("reverb", 0, "How much of a small room is heard", func(s *Sound) *int { return &s.Reverb }),
	)
	return &document.Shape[Sound]{
		Doc:    "The built-in voice for listening; never part of a file.",
		Fields: fields,
		// A voice comes with its envelope, unless that is stated with it.
		Given: func(named func(string) bool, s *Sound) {
			if !named("voice") {
				return
			}
			for _, f := range envelopeFields {
				if !named(f.name) {
					*f.at(s) = unsaid
				}
			}
		},
		Check: func(_ *document.At, s *Sound) {
			for _, f := range envelopeFields {
				if *f.at(s) == unsaid {
					*f.at(s) = f.of(ownOf(s.Voice))
				}
			}
		},
	}
}

// WithVoice is the sound with another voice and that voice's envelope.
func (s Sound) WithVoice(voice string) Sound {
	s.Voice = voice
	for _, f := range envelopeFields {
		*f.at(&s) = f.of(ownOf(voice))
	}
	return s
}

// VoiceSounds is how each voice sounds where nothing else is said of it, in the order of Voices.
func VoiceSounds() []Sound {
	plain := soundShape(Voices[0]).Fresh()
	out := make([]Sound, len(Voices))
	for i, voice := range Voices {
		out[i] = plain.WithVoice(voice)
	}
	return out
}
