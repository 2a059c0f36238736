package piece

import (
	"encoding/json"
	"slices"
	"strings"

	"agrimony/internal/core/document"
	"agrimony/internal/core/pitch"
)

// Layer is the content of a lane that plays another lane's notes, moved.
type Layer struct {
	Of        string `json:"of"`        // the lane's id
	Octave    int    `json:"octave"`    // by which its notes are moved
	Degrees   int    `json:"degrees"`   // along the scale
	Semitones int    `json:"semitones"` // beside
	Velocity  int    `json:"velocity"`  // added
	Gate      int    `json:"gate"`      // % of each note's length
	Keep      Keep   `json:"keep" tstype:"string | Nth"`
	Lock      string `json:"lock"`
	Snap      string `json:"snap"`
	OwnShare  bool   `json:"ownShare"` // it states its share of the groove; otherwise that is its original's
}

// Keep says which notes a layer plays: those of a name, or one of every few.
type Keep struct {
	Name  string // "" for one of every few
	Every int
	From  int // the first that is kept, counted from 1
}

// Nth is one of every few notes, as the document writes it.
type Nth struct {
	Every int `json:"every"`
	From  int `json:"from"`
}

// Accent is how hard a note is struck, at least, that counts as an accent.
const Accent = 110

// Keeps are the notes that a layer may play, by name.
var Keeps = []string{"all", "accents", "beats", "chord"}

// MarshalJSON writes what is kept as the document does.
func (k Keep) MarshalJSON() ([]byte, error) {
	if k.Name != "" {
		return json.Marshal(k.Name)
	}
	return json.Marshal(Nth{k.Every, k.From})
}

var everyShape = &document.Shape[Keep]{
	Doc: "One of every few notes.",
	Fields: []document.Field[Keep]{
		document.Whole("every", 1, 64, 1, "Of so many.", func(k *Keep) *int { return &k.Every }).Needed(),
		document.Whole("from", 1, 64, 1, "The first that is kept, counted from 1.", func(k *Keep) *int { return &k.From }),
	},
}

var layerKind = definePlain("layer", "Another lane's notes, moved.", []document.Field[Layer]{
	document.Parsed("of", "", "The lane whose notes it plays.", checkID, func(l *Layer) *string { return &l.Of }, document.Pairs("pattern", idPattern)).Needed(),
	document.Whole("octave", -4, 4, 0, "Octaves by which they are moved.", func(l *Layer) *int { return &l.Octave }),
	document.Whole("degrees", -14, 14, 0, "Steps of the scale by which they are moved.", func(l *Layer) *int { return &l.Degrees }),
	document.Whole("semitones", -48, 48, 0, "Semitones by which they are moved.", func(l *Layer) *int { return &l.Semitones }).In("semitones"),
	document.Whole("velocity", -126, 126, 0, "Added to their velocity.", func(l *Layer) *int { return &l.Velocity }),
	document.Whole("gate", 1, 400, 100, "How long, in % of each note's length.", func(l *Layer) *int { return &l.Gate }).In("%"),
	named("keep", "Which of them it plays: all, those struck at 110 and above, those on the meter's unit, those that are tones of the chord, or one of every few.",
		"all", Keeps, everyShape, func(l *Layer) *Keep { return &l.Keep }, func(k *Keep) *string { return &k.Name }),
	document.Choice("lock", Locks, "off", "What moved pitches are snapped to.", func(l *Layer) *string { return &l.Lock }),
	document.Choice("snap", Snaps, "nearest", "Which way they are snapped; nearest takes the lower of two.", func(l *Layer) *string { return &l.Snap }),
}, listening("bass"), []document.Field[Lane]{ranged(), sharingOwn()}).bypassing()

// sharingOwn is the share of a layer, which is its original's unless it states one; of one
// that is stated in part the rest is 100.
func sharingOwn() document.Field[Lane] {
	own := func(l *Lane) *Layer { return l.Content.(*Layer) }
	return document.Own("share", "How far it takes part in the groove; absent: as its original does.",
		func(l *Lane) { l.Share, own(l).OwnShare = shareShape.Fresh(), false },
		func(at *document.At, value any, l *Lane) {
			if l.Share, own(l).OwnShare = shareShape.Fresh(), value != nil; value != nil {
				l.Share = shareShape.Read(at, value)
			}
		},
		func(at *document.At, l *Lane) { shareShape.Verify(at.Field("share"), &l.Share) },
		func(l *Lane) (any, bool) { return shareShape.Write(&l.Share), own(l).OwnShare },
		func() document.Object {
			return document.Pairs("anyOf", []any{shareShape.Schema(), document.Pairs("type", "null")})
		})
}

// ShareOf is how far a lane of a checked clip takes part in the groove: a layer that states
// no share as its original does.
func ShareOf(clip *Clip, l *Lane) Share {
	for {
		if l.Bypasses("groove") {
			return Share{}
		}
		layer, ok := l.Content.(*Layer)
		if !ok || layer.OwnShare {
			return l.Share
		}
		l = &clip.Lanes[slices.IndexFunc(clip.Lanes, func(o Lane) bool { return o.ID == layer.Of })]
	}
}

// DividesEvenly reports whether a lane of a checked clip divides the beat evenly itself, so that no swing bends it: one
// at a triplet rate, a layer of such a lane, and a phrase that takes its rhythm.
func DividesEvenly(clip *Clip, l *Lane) bool {
	for {
		clock := ""
		switch own := l.Content.(type) {
		case *Layer:
			clock = own.Of
		case *Phrase:
			if own.Rhythm != nil {
				clock = own.Rhythm.Lane
			}
		case *Notes:
			return false // it has no rate
		}
		if clock == "" {
			return strings.HasSuffix(l.Rate, "T")
		}
		l = &clip.Lanes[slices.IndexFunc(clip.Lanes, func(o Lane) bool { return o.ID == clock })]
	}
}

// Slots are none: a layer has the steps of what it plays.
func (*Layer) StepList() Steps { return nil }

// Clone copies the content.
func (l *Layer) Clone() Content { out := *l; return &out }

// CheckKey has nothing to refuse.
func (*Layer) CheckKey(*document.At, pitch.Key) {}

// Needs is the lane whose notes it plays.
func (l *Layer) Needs() []Need { return []Need{{"of", l.Of}} }

// Listens tells whether the layer itself asks for the sounding chord.
func (l *Layer) Listens() bool { return l.Keep.Name == "chord" || l.Lock == "chord" }

// Original is the lane whose notes it plays.
func (l *Layer) Original() string { return l.Of }

// Lean lets the layer play another lane, which it cannot do without.
func (l *Layer) Lean(_, lane string) bool {
	l.Of = lane
	return lane != ""
}
