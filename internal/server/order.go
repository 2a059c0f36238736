package server

import (
	"errors"
	"net/http"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/files"
	"agrimony/internal/core/op"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/smf"
	"agrimony/internal/view"
)

// maxStretch is how many bars of a running order are given out to be played at once.
const maxStretch = 32

// viewOrder gives the view of the running order.
func (s *server) viewOrder(c *gin.Context) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	out, err := view.OrderOf(from.Piece, view.Whole(workOf(c)))
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, out)
}

// playOrder gives what begins in a stretch of the order as it is being played. Nothing is changed.
func (s *server) playOrder(c *gin.Context) {
	var ask PlayRequest
	if err := c.ShouldBindJSON(&ask); err != nil {
		refuse(c, bad("%v", err))
		return
	}
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	bar := int(from.Piece.Bar() / piece.OrderTick)
	if ask.From < 0 || ask.To <= ask.From || ask.To-ask.From > maxStretch*bar {
		refuse(c, bad("from %d to %d is no stretch; allowed: up to %d bars from 0 on", ask.From, ask.To, maxStretch))
		return
	}
	if err := order.CheckHeld(ask.Zones); err != nil {
		refuse(c, bad("zones: %v", err))
		return
	}
	p := from.Piece
	if len(ask.Draft) > 0 {
		if p, err = edit.ApplyWithin(p, ask.Draft, workOf(c).Part(editWork)); err != nil {
			refuseOf(c, from.Piece, err)
			return
		}
	}
	if p, err = playedPiece(p, ask.Played); err != nil {
		refuse(c, err)
		return
	}
	out := PlayedStretch{Lanes: []PlayedLane{}, Silences: []LaneSilence{}, Zones: []order.Held{}}
	if len(p.Order.Entries) > 0 {
		work := workOf(c)
		played, err := order.Render(p, order.Options{From: ask.From, To: ask.To, Live: true, Begin: ask.Begin, Budget: work, Events: work.Limits().Events})
		if err != nil {
			refuse(c, err)
			return
		}
		out.Zones = played.Hold(ask.Zones, int64(ask.From), int64(ask.To))
		out.Lanes = playedLanes(p, played, int64(ask.From), int64(ask.To))
		for _, s := range played.Silences(int64(ask.From), int64(ask.To)) {
			clip := &p.Clips[s.Clip]
			out.Silences = append(out.Silences, LaneSilence{s.At.Export(view.PPQ), clip.ID, clip.Lanes[s.Lane].ID})
		}
	}
	reply(c, http.StatusOK, out)
}

// playedPiece is a piece with the order as it is being played.
func playedPiece(from *piece.Piece, played []op.Played) (*piece.Piece, error) {
	p := *from
	var err error
	if p.Order.Entries, err = edit.EntriesOf(from, played); err != nil {
		return nil, bad("%v", err)
	}
	err = piece.CheckOrder(&p)
	var fault *piece.Fault
	if errors.As(err, &fault) { // who performs sees clips, not entries
		return nil, bad("%s", piece.InWords(from, &piece.Fault{Problem: fault.Problem}))
	}
	return &p, err
}

// seatOrder gives the channels that the lanes have in a file of the order as it is being played.
func (s *server) seatOrder(c *gin.Context) {
	var ask SeatsRequest
	if err := c.ShouldBindJSON(&ask); err != nil {
		refuse(c, bad("%v", err))
		return
	}
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	p, err := playedPiece(from.Piece, ask.Played)
	if err != nil {
		refuse(c, err)
		return
	}
	out := OrderSeats{Lanes: []OrderSeat{}, Zones: []order.Held{}, Setup: []view.Control{}}
	if len(p.Order.Entries) > 0 {
		work := workOf(c)
		performance, err := order.Render(p, order.Options{Budget: work, Events: work.Limits().Events, Kept: keptSeats(p, ask.Kept)})
		if err != nil {
			refuse(c, worded(err))
			return
		}
		seats, zones := performance.Seats()
		for _, seat := range seats {
			clip := &p.Clips[seat.Clip]
			out.Lanes = append(out.Lanes, OrderSeat{clip.ID, clip.Lanes[seat.Lane].ID, seat.Channel})
		}
		out.Zones, out.Setup = append(out.Zones, zones...), view.SetupOf(performance.Setup)
	}
	reply(c, http.StatusOK, out)
}

// keptSeats are the channels that lanes have already; of lanes that are not there, none. nil: nobody performs.
func keptSeats(p *piece.Piece, seats []OrderSeat) map[piece.LanePlace]int {
	if seats == nil {
		return nil
	}
	out := map[piece.LanePlace]int{}
	for _, seat := range seats {
		c := slices.IndexFunc(p.Clips, func(clip piece.Clip) bool { return clip.ID == seat.Clip })
		if c < 0 || seat.Channel < 1 || seat.Channel > 16 {
			continue
		}
		if l := slices.IndexFunc(p.Clips[c].Lanes, func(lane piece.Lane) bool { return lane.ID == seat.Lane }); l >= 0 {
			out[piece.LanePlace{Clip: c, Lane: l}] = seat.Channel
		}
	}
	return out
}

// playedLanes are what of a performance begins between two ticks.
func playedLanes(p *piece.Piece, played *order.Performance, from, to int64) []PlayedLane {
	out := []PlayedLane{}
	frame := played.Frame()
	within := func(at int64) bool { return at >= from && at < to }
	for i := range played.Tracks {
		t := &played.Tracks[i]
		lane := &p.Clips[t.Clip].Lanes[t.Lane]
		own := PlayedLane{
			Clip:     p.Clips[t.Clip].ID,
			Lane:     t.Part.ID,
			Channel:  t.Part.Channel,
			Kind:     lane.Kind,
			Apart:    t.Part.Zone != nil,
			Sound:    lane.Sound,
			Sounding: Sounding{[]view.Note{}, []view.Bend{}, []view.Control{}, []view.Pressure{}},
		}
		if to := render.ActsOn(&p.Clips[t.Clip], t.Lane); to >= 0 {
			own.On = p.Clips[t.Clip].Lanes[to].ID
		}
		for k := range t.Part.Notes {
			note := &t.Part.Notes[k]
			if at, length := frame.SpanOf(note); within(at) && note.Velocity > 0 {
				shown := view.NoteOf(note, t.Path(k), at, length)
				shown.Round = 0
				for _, bend := range t.Wheel(k) {
					if bend.At <= note.At || bend.At < note.End {
						shown.Wheel = append(shown.Wheel, (bend.At - note.At).Export(view.PPQ), int64(bend.Value))
					}
				}
				own.Notes = append(own.Notes, shown)
			}
		}
		for _, b := range t.Part.Bends {
			if at := b.At.Export(view.PPQ); within(at) {
				own.Bends = append(own.Bends, view.Bend{At: at, Value: int(b.Value)})
			}
		}
		for _, x := range t.Part.Controls {
			if at := x.At.Export(view.PPQ); within(at) {
				own.Controls = append(own.Controls, view.Control{At: at, Controller: int(x.Controller), Value: int(x.Value)})
			}
		}
		for _, x := range t.Part.Pressures {
			if at := x.At.Export(view.PPQ); within(at) {
				own.Pressures = append(own.Pressures, view.Pressure{At: at, Value: int(x.Value)})
			}
		}
		if len(own.Notes)+len(own.Bends)+len(own.Controls)+len(own.Pressures) > 0 {
			out = append(out, own)
		}
	}
	return out
}

// orderFile is what a request asks a file of the running order to hold.
type orderFile struct {
	piece  *piece.Piece
	render order.Options
	file   smf.Options
	plain  bool
}

// orderedFile reads ?from=, ?to=, ?ppq=, ?type=, ?names= and ?plain=.
func (s *server) orderedFile(c *gin.Context) (*orderFile, error) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		return nil, err
	}
	out := &orderFile{piece: from.Piece, file: smf.Default, render: order.Options{PPQ: render.DefaultPPQ}}
	for name, into := range map[string]*int{"from": &out.render.From, "to": &out.render.To, "ppq": &out.render.PPQ, "type": &out.file.Type} {
		if text, given := c.GetQuery(name); given {
			if *into, err = strconv.Atoi(text); err != nil {
				return nil, bad("%s: %q is not a whole number", name, text)
			}
		}
	}
	out.file.ChordNames, out.plain = c.DefaultQuery("names", "yes") == "yes", c.Query("plain") == "yes"
	if err := smf.CheckType(out.file.Type); err != nil {
		return nil, bad("%v", err)
	}
	return out, nil
}

func (o *orderFile) name() string { return fileName(o.piece.Title) + ".mid" }

// orderMade renders and encodes the order.
func (s *server) orderMade(c *gin.Context, o *orderFile) (*order.Performance, []byte, error) {
	o.render.Budget = workOf(c)
	o.render.Events = o.render.Budget.Limits().Events
	performance, err := order.Render(o.piece, o.render)
	if err != nil {
		return nil, nil, worded(err)
	}
	if !o.plain {
		if o.file.Own, err = files.PackOrder(o.piece, o.render, o.file.Type); err != nil {
			return nil, nil, err
		}
	}
	data, err := smf.EncodeOrder(performance, o.file)
	return performance, data, err
}

// worded makes what is wrong with a request for an order a fault of it.
func worded(err error) error {
	switch err.(type) {
	case *render.TooManyError, *budget.SpentError, *budget.MemoryError, *render.BrokenError, *slowError:
		return err
	}
	return bad("%v", err)
}

func (s *server) orderMidi(c *gin.Context) {
	o, err := s.orderedFile(c)
	if err != nil {
		refuse(c, err)
		return
	}
	_, data, err := s.orderMade(c, o)
	if err != nil {
		refuse(c, err)
		return
	}
	attach(c, o.name())
	c.Data(http.StatusOK, "audio/midi", data)
}

func (s *server) orderSummary(c *gin.Context) {
	o, err := s.orderedFile(c)
	if err != nil {
		refuse(c, err)
		return
	}
	performance, data, err := s.orderMade(c, o)
	if err != nil {
		refuse(c, err)
		return
	}
	out := FileSummary{
		Name: o.name(), Bytes: len(data), Bars: performance.Bars().RatString(), Ticks: performance.Length.Export(performance.PPQ),
		Seconds: float64(performance.Length) / float64(beat.Quarter) * 60 / o.piece.Tempo, Tracks: []FileTrack{}, Problems: []string{},
	}
	out.Lasts = view.BarsInWords(o.piece, out.Bars)
	if keys := performance.Keys(); len(keys) > 0 {
		out.Key = pitch.Pretty(keys[0].Key.String())
	}
	for i := range performance.Tracks {
		t := &performance.Tracks[i]
		clip := &o.piece.Clips[t.Clip]
		own := &clip.Lanes[t.Lane]
		out.Tracks = append(out.Tracks, trackFacts(&t.Part, 0, func(note *render.Note) string {
			return nameIn(o.piece.KeyOf(clip), note, own, piece.SourceOf(clip, own))
		}))
	}
	for _, f := range performance.Findings {
		out.Problems = append(out.Problems, f.Message)
	}
	reply(c, http.StatusOK, out)
}
