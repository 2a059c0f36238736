package server

import (
	"encoding/json"

	"agrimony/internal/core/compare"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/files"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/since"
	"agrimony/internal/view"
)

// State is a piece as a screen shows it, and what undo and redo would do. It is whole, or says how what is shown differs
// from what the asker holds.
type State struct {
	ID      string `json:"id"`
	Version int64  `json:"version"`
	Undo    string `json:"undo"`
	Redo    string `json:"redo"`
	Sum     string `json:"sum"` // names what the asker then holds; empty: nothing that can be built on
	*Shown  `tstype:",extends"`
	// Since is the change of what the asker holds that makes it what is shown.
	Since since.Change `json:"since,omitempty" tstype:"Change"`
	// Others reports whether the pictures of clips that are not open may have changed.
	Others bool `json:"others"`
	// Remark is what is to be said of the edit that was made.
	Remark *edit.Remark `json:"remark,omitempty"`
}

// Kept is the second part of the answer to an edit, once it is kept.
type Kept struct {
	Version int64  `json:"version"`
	Undo    string `json:"undo"`
	Redo    string `json:"redo"`
	// Status is that of a refusal, with Problem: the edit is not kept, though it was shown.
	Status  int      `json:"status,omitempty"`
	Problem *Problem `json:"problem,omitempty"`
}

// Holds tells what an asker holds: Sum names it, from the answer that it came with. Also are the clips beside the one
// that is open which it has whole, and is to have whole.
type Holds struct {
	Sum  string   `json:"sum,omitempty"`
	Also []string `json:"also,omitempty"`
}

// Brief is as much of a clip that is not shown as a screen needs to name it.
type Brief struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Chords bool   `json:"chords"` // others may take its chords
	Of     string `json:"of,omitempty"`
	Brief  bool   `json:"brief"` // always true
}

// EditRequest asks for an edit of the piece at a version. Clip is the one whose view comes back. Key is the request's
// own, so that one sent again, because no answer came, is not made twice. With the header "Accept: application/jsonl"
// the answer comes in two lines: a State as soon as the edit is worked out, and Kept when it is on disk.
type EditRequest struct {
	Key     string  `json:"key"`
	Version int64   `json:"version"`
	Clip    string  `json:"clip"`
	Holds   Holds   `json:"holds,omitzero"`
	Ops     []op.Op `json:"ops"`
}

// StepRequest asks for an undo or redo of the piece at a version. It is answered as an EditRequest is.
type StepRequest struct {
	Key     string `json:"key"`
	Version int64  `json:"version"`
	Clip    string `json:"clip"`
	Holds   Holds  `json:"holds,omitzero"`
}

// CreateRequest asks for a new piece with one clip.
type CreateRequest struct {
	Title string          `json:"title"`
	Key   json.RawMessage `json:"key" tstype:"unknown"`
	Tempo float64         `json:"tempo"`
	Meter string          `json:"meter"`
	Clip  string          `json:"clip"` // the first clip's name
}

// PreviewRequest asks what a change of key would do.
type PreviewRequest struct {
	Op op.SetKey `json:"op"`
}

// Problem is the body of every error.
type Problem struct {
	Error string `json:"error"`
	Path  string `json:"path"` // in the document, where the problem has one
	// Words are the same as a screen says it, without the path.
	Words string `json:"words,omitempty"`
	// Mends are edits that would be taken instead.
	Mends []render.Mend `json:"mends,omitempty"`
	State *State        `json:"state,omitempty"`
	// Final tells of a fault of the server's own that asking again does not help.
	Final bool `json:"final,omitempty"`
}

// Card is what a list of pieces shows of one.
type Card struct {
	Key   string      `json:"key"` // in real signs
	Tempo float64     `json:"tempo"`
	Meter string      `json:"meter"`
	Clips int         `json:"clips"`
	First *view.Thumb `json:"first" tstype:"Thumb | null"` // its first clip's drawing; null: it has none that can be drawn
}

// FileSummary says what a file will hold before it is made.
type FileSummary struct {
	Name     string      `json:"name"` // of the file
	Bytes    int         `json:"bytes"`
	Bars     string      `json:"bars"`
	Lasts    string      `json:"lasts"` // the same in words
	Ticks    int64       `json:"ticks"`
	Seconds  float64     `json:"seconds"`
	Tracks   []FileTrack `json:"tracks"`
	Key      string      `json:"key"` // the key signature in words; empty: none
	Problems []string    `json:"problems"`
}

// FileTrack is one lane in a file.
type FileTrack struct {
	Name     string `json:"name"`
	Channel  int    `json:"channel"`
	Last     int    `json:"last"` // of the channels of a zone, the one farthest from its master; else the channel
	Notes    int    `json:"notes"`
	Left     int    `json:"left"` // notes that have no tick of their own at this resolution
	Bends    int    `json:"bends"`
	Controls int    `json:"controls"`
	Lowest   string `json:"lowest"`
	Highest  string `json:"highest"`
}

// Explanation is why a note is there, in words.
type Explanation struct {
	Text    string          `json:"text"`
	Reasons []render.Reason `json:"reasons"`
}

// ProgressionWord is a word of a written progression: its names with real signs, or what is
// wrong with it and what it may have meant.
type ProgressionWord struct {
	Text    string   `json:"text"`
	Symbol  string   `json:"symbol"`
	Numeral string   `json:"numeral"`
	Problem string   `json:"problem"` // empty: it was read
	Near    []string `json:"near" tstype:"string[] | null,required"`
}

// StarterOffer is a starter as it would sound in a clip.
type StarterOffer struct {
	Name     string          `json:"name"`
	Kind     string          `json:"kind"`
	Own      bool            `json:"own"` // one's own, not built in
	Document json.RawMessage `json:"document" tstype:"unknown"`
	Lane     any             `json:"lane" tstype:"Lane | null"` // as it would begin; null: it needs lanes that are not there
	Notes    []view.Note     `json:"notes"`
	Ticks    int64           `json:"ticks"`  // how long the notes are shown for
	About    string          `json:"about"`  // what it is for; empty: one's own
	Silent   string          `json:"silent"` // why it sounds nothing here; empty: it does
}

// LaneStarter is how a lane stands to the starter that it was begun from.
type LaneStarter struct {
	Name     string          `json:"name"` // empty: it was begun from none
	Known    bool            `json:"known"`
	Own      bool            `json:"own"`
	Differs  bool            `json:"differs"`
	Was      json.RawMessage `json:"was" tstype:"unknown"`      // the starter's document, where it is known
	Document json.RawMessage `json:"document" tstype:"unknown"` // the lane itself as a starter
}

// Fit is what a lane from elsewhere needs in a clip.
type Fit struct {
	Name   string    `json:"name"`
	Kind   string    `json:"kind"`
	Needs  []FitNeed `json:"needs"`
	Chords bool      `json:"chords"` // it listens to chords, and the clip has none
}

// FitNeed is a lane that it needs, and whether the clip has one of that id.
type FitNeed struct {
	Field string `json:"field"`
	Lane  string `json:"lane"`
	There bool   `json:"there"`
}

// TakenGroove is what a piece's groove becomes when it is taken from a file: the file's own
// swing is in the template, so the piece has none.
type TakenGroove struct {
	Template *piece.Template `json:"template" tstype:"Template,required"`
	Swing    int             `json:"swing"`
	Timing   int             `json:"timing"`
	Velocity int             `json:"velocity"`
}

// TakeRequest says what becomes of a MIDI file.
type TakeRequest struct {
	Name     string      `json:"name,omitempty"` // of the file
	To       string      `json:"to,omitempty"`   // "lanes" of the clip that is open, or else a clip
	Key      string      `json:"key,omitempty"`  // empty: the one that fits best, or the clip's
	Controls bool        `json:"controls,omitempty"`
	Feel     bool        `json:"feel,omitempty"`   // how it is played becomes the piece's groove; what comes in keeps out of it
	Plain    bool        `json:"plain,omitempty"`  // leaves out the document that a file of ours holds
	AsWas    bool        `json:"asWas,omitempty"`  // takes that as it was
	Tracks   []TakeTrack `json:"tracks,omitempty"` // empty: all
	Each     bool        `json:"each,omitempty"`   // of a report: what the tracks would differ as each kind
}

// TakeTrack is what a track of a file is to become.
type TakeTrack struct {
	Track int    `json:"track"` // from 1
	As    string `json:"as"`    // empty: it stays out
	Only  string `json:"only,omitempty"`
}

// FileReport is what is in a MIDI file, with a drawing of each track.
type FileReport struct {
	Report    *files.Report `json:"report" tstype:"Report,required"`
	KeyNames  []string      `json:"keyNames"` // the keys that fit, in real signs
	Drawn     []FileDrawing `json:"drawn"`
	Becomings []string      `json:"becomings"` // what a track can become
	// Offers are what each track may become, where that was asked for.
	Offers []files.TrackOffers `json:"offers" tstype:"TrackOffers[]"`
}

// FileDrawing is the notes of a track, as far as they are drawn small.
type FileDrawing struct {
	Lane  string      `json:"lane"`  // what a lane of it is called
	Names [2]string   `json:"names"` // of its lowest and highest note
	Voice piece.Sound `json:"voice" tstype:"Sound"`
	Ticks int         `json:"ticks"`
	Notes []view.Note `json:"notes" tstype:"Note[]"`
}

// ProposeRequest asks for proposals for a lane: sketches, or variations.
type ProposeRequest struct {
	Lane   string          `json:"lane"`
	Sketch json.RawMessage `json:"sketch,omitempty" tstype:"SketchRequest"`
	Vary   json.RawMessage `json:"vary,omitempty" tstype:"VaryRequest"`
	On     []op.Op         `json:"on,omitempty" tstype:"Op[]"` // edits after which they are asked for
}

// Proposal is one: its seed, how it would sound, and its steps as the document writes them.
type Proposal struct {
	Seed    int              `json:"seed"`
	Dials   *sketch.Came     `json:"dials" tstype:"Came | null,required"`
	Differs int              `json:"differs"`
	Ticks   int64            `json:"ticks"`
	Sound   Sounding         `json:"sound"`
	Steps   []piece.LineStep `json:"steps" tstype:"LineStep[]"`
	// Shortened says how much of it is heard; empty: as much as of the clip.
	Shortened string `json:"shortened"`
}

// Sounding is what a lane sounds in a round of the clip.
type Sounding struct {
	Notes     []view.Note     `json:"notes" tstype:"Note[]"`
	Bends     []view.Bend     `json:"bends" tstype:"Bend[]"`
	Controls  []view.Control  `json:"controls" tstype:"Control[]"`
	Pressures []view.Pressure `json:"pressures" tstype:"Pressure[]"`
}

// Sketching is what sketches are asked for by.
type Sketching struct {
	Dials    []sketch.Dial `json:"dials" tstype:"Dial[]"`
	Contours []string      `json:"contours"`
	Tempers  []TemperOffer `json:"tempers"`
}

// TemperOffer is a temper with what it makes of a lane.
type TemperOffer struct {
	sketch.Temper `tstype:",extends"`
	Own           bool        `json:"own"` // one's own
	Ticks         int64       `json:"ticks"`
	Notes         []view.Note `json:"notes" tstype:"Note[]"`
}

// Version is a clip of a stack beside the first of it.
type Version struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Bars     int            `json:"bars"`
	Ticks    int64          `json:"ticks"`
	BarTicks int64          `json:"barTicks"`
	Lanes    []VersionLane  `json:"lanes"`
	Words    []compare.Said `json:"words" tstype:"Said[]"`
	Notes    []compare.Note `json:"notes" tstype:"NoteChange[]"`
	// Shortened says how much of it is compared; empty: all.
	Shortened string `json:"shortened"`
}

// VersionLane is what a lane of it sounds.
type VersionLane struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Index   int         `json:"index"`
	Audible bool        `json:"audible"`
	Notes   []view.Note `json:"notes" tstype:"Note[]"`
}

// PlayRequest asks what of the running order as it is being played begins between two times, in 960ths of a
// quarter. With Begin, what sounds across From is struck there.
type PlayRequest struct {
	Played []op.Played `json:"played"`
	From   int         `json:"from"`
	To     int         `json:"to"`
	Begin  bool        `json:"begin"`
	// Zones are those that the lanes have which glide note by note, as they stand at From; without any, their
	// notes have no channels of their own.
	Zones []order.Held `json:"zones" tstype:"Held[]"`
	// Draft are edits that are tried and not kept: they are heard.
	Draft []op.Op `json:"draft,omitempty"`
}

// PlayedStretch is what begins in it, and how the zones stand where it ends.
type PlayedStretch struct {
	Lanes []PlayedLane `json:"lanes"`
	// Silences are where lanes fall silent in it: whatever they sound ends there.
	Silences []LaneSilence `json:"silences"`
	Zones    []order.Held  `json:"zones" tstype:"Held[]"`
}

// LaneSilence is where a lane of a clip falls silent, in ticks of the order.
type LaneSilence struct {
	At   int64  `json:"at"`
	Clip string `json:"clip"`
	Lane string `json:"lane"`
}

// SeatsRequest asks which channels the lanes have in a file of the running order as it is being played.
type SeatsRequest struct {
	Played []op.Played `json:"played"`
	// Kept are the channels that lanes have already, while somebody performs; absent: nobody does.
	Kept []OrderSeat `json:"kept,omitempty" tstype:"OrderSeat[]"`
}

// OrderSeats are the channels of lanes over the piece, the zones as they begin, and what announces those.
type OrderSeats struct {
	Lanes []OrderSeat    `json:"lanes"`
	Zones []order.Held   `json:"zones" tstype:"Held[]"`
	Setup []view.Control `json:"setup" tstype:"Control[]"`
}

// OrderSeat is the channel of a lane.
type OrderSeat struct {
	Clip    string `json:"clip"`
	Lane    string `json:"lane"`
	Channel int    `json:"channel"`
}

// PlayedLane is what a lane of a clip plays in a stretch, in ticks of the order.
type PlayedLane struct {
	Clip     string      `json:"clip"`
	Lane     string      `json:"lane"`
	Channel  int         `json:"channel"` // its MIDI channel in the clip alone
	Kind     string      `json:"kind"`
	Sound    piece.Sound `json:"sound" tstype:"Sound"`
	On       string      `json:"on"`    // the lane on which it acts; "": it sounds itself
	Apart    bool        `json:"apart"` // its notes glide each by itself
	Sounding `tstype:",extends"`
}
