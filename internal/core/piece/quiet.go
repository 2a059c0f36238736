package piece

import "agrimony/internal/core/document"

// A Remark is a rule of the review that can be told to be quiet, for a lane or for the whole piece.
type Remark struct {
	Rule string `json:"rule"`
	// Title is what the rule finds, as a heading.
	Title string `json:"title"`
}

// Remarks are the rules that can be quiet. What lets a lane fall silent is always said. To add one, add a row.
var Remarks = []Remark{
	{"clash", "Clashes with the chord"},
	{"chord-share", "Few chord tones"},
	{"bass-over", "Bass over the chords"},
	{"rub", "Semitones between lanes"},
	{"parallel", "Parallel fifths and octaves"},
	{"muddy", "Close intervals down low"},
	{"too-low", "Too low to be heard"},
	{"over-kick", "Bass over the kick"},
	{"no-breath", "No breath"},
	{"one-velocity", "One velocity"},
	{"seam", "How the loop leads back"},
	{"halves", "Two equal halves"},
	{"late", "Lanes that meet late"},
	{"realign", "Lanes that never meet"},
	{"rounds", "Rounds that are not reached"},
	{"glide-range", "Glides beyond the range"},
	{"glide-start", "A glide at the start"},
	{"folded", "Pitches folded by octaves"},
	{"range", "Notes outside a range"},
	{"clamped", "Modulators beyond a range"},
	{"outside-loop", "Notes outside the loop"},
	{"voices", "What one voice leaves out"},
	{"no-harmony", "Chords that are not there"},
	{"no-chord", "Single tones for chords"},
	{"no-glides", "Glides that do nothing"},
	{"voicing-range", "Chords without a place"},
	{"hardly-moves", "Control that hardly moves"},
	{"modulator-idle", "Modulators without effect"},
	{"modulator-key", "Modulators that leave the key"},
	{"drum-channel", "Drums on another channel"},
	{"channel", "Shared channels"},
	{"two-wheels", "Two lanes on one wheel"},
	{"zone-channel", "Channels of a zone"},
	{"zone-layer", "Layers without a zone"},
	{"zone-voices", "Voices of a zone"},
}

var remarkNames = func() []string {
	out := make([]string, len(Remarks))
	for i, r := range Remarks {
		out[i] = r.Rule
	}
	return out
}()

// quieting is the field that says which rules of the review are quiet.
func quieting[T any](where string, at func(*T) *[]string) document.Field[T] {
	return document.Words("quiet", remarkNames, "Rules of the review that are quiet "+where+".", at)
}
