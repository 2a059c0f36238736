package server

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/compare"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/render"
	"agrimony/internal/store"
	"agrimony/internal/view"
)

// propose makes sketches, or variations, of a lane, or of it as some edits would leave it: each as it
// would sound in the clip. Nothing is changed.
func (s *server) propose(c *gin.Context) {
	var ask ProposeRequest
	if err := c.ShouldBindJSON(&ask); err != nil {
		refuse(c, bad("%v", err))
		return
	}
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	out, err := proposals(p, clip, &ask, 0, workOf(c))
	if err != nil {
		var fault *piece.Fault
		if errors.As(err, &fault) {
			err = bad("%v", fault)
		}
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, out)
}

// proposals are those that are asked for, of which so many share the answer; 0: as many as there are.
func proposals(p *piece.Piece, clip *piece.Clip, ask *ProposeRequest, share int, work *budget.Budget) ([]Proposal, error) {
	base := p
	if len(ask.On) > 0 {
		next, err := edit.ApplyWithin(p, ask.On, work.Part(editWork))
		if err != nil {
			return nil, err
		}
		base = next
	}
	on, err := base.Clip(clip.ID)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(on.Lanes, func(l piece.Lane) bool { return l.ID == ask.Lane })
	if i < 0 {
		return nil, bad("no lane %q in clip %q", ask.Lane, clip.ID)
	}
	scene := sketch.Scene{Piece: base, Clip: on, Lane: &on.Lanes[i], Kinds: lane.KindOf, Budget: work}
	out := []Proposal{}
	add := func(one Proposal, change func(l *piece.Lane)) error {
		own, next := *on, *base
		own.Lanes = slices.Clone(on.Lanes)
		own.Lanes[i] = own.Lanes[i].Clone()
		change(&own.Lanes[i])
		next.Clips = slices.Clone(base.Clips)
		next.Clips[slices.IndexFunc(next.Clips, func(c piece.Clip) bool { return c.ID == own.ID })] = own
		l, performance, whole, err := view.Alone(&next, &own, &own.Lanes[i], view.Share(work, share))
		if err != nil {
			return err
		}
		one.Ticks, one.Sound = worthSeeing(performance, l), Sounding{l.Notes, l.Bends, l.Controls, l.Pressures}
		if !whole {
			one.Shortened = fmt.Sprintf("Heard for its first %s.", render.Many(int(performance.Length/performance.Bar), "bar"))
		}
		one.Steps = []piece.LineStep{}
		if line := piece.LineOf(&own.Lanes[i]); line != nil {
			one.Steps = append(one.Steps, line.Steps...)
		}
		out = append(out, one)
		return nil
	}
	if ask.Vary != nil {
		r, err := sketch.ReadVary(ask.Vary)
		if err != nil {
			return nil, err
		}
		made, err := sketch.Vary(scene, r)
		if err != nil {
			return nil, err
		}
		share = max(share, len(made))
		for k := range made {
			if err := add(Proposal{Seed: made[k].Seed, Differs: made[k].Differs}, func(l *piece.Lane) { *l = made[k].Lane }); err != nil {
				return nil, err
			}
		}
		return out, nil
	}
	r, err := sketch.ReadRequest(ask.Sketch)
	if err != nil {
		return nil, err
	}
	made, err := sketch.Make(scene, r)
	if err != nil {
		return nil, err
	}
	share = max(share, len(made))
	for k := range made {
		if err := add(Proposal{Seed: made[k].Seed, Differs: made[k].Differs, Dials: &made[k].Dials}, func(l *piece.Lane) { sketch.Take(l, &made[k]) }); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// worthSeeing is how much of a clip shows a lane's line, in ticks: a round of it in whole bars, at least four,
// and no more than the clip. Later rounds repeat it.
func worthSeeing(performance *render.Performance, l *view.Lane) int64 {
	ticks, bar := performance.Length.Export(view.PPQ), performance.Bar.Export(view.PPQ)
	round := int64(l.Round) * l.StepTicks
	if l.Round < len(l.SlotAt) {
		round = l.SlotAt[l.Round]
	}
	return min(ticks, max((round+bar-1)/bar, 4)*bar)
}

// tempers gives the dials, and each temper with a drawing of what it makes of a lane.
func (s *server) tempers(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	bars := 0
	if text := c.Query("bars"); text != "" {
		var err error
		if bars, err = strconv.Atoi(text); err != nil {
			refuse(c, bad("bars: %q is not a whole number", text))
			return
		}
	}
	out := Sketching{Dials: sketch.All, Contours: sketch.Contours, Tempers: []TemperOffer{}}
	own, err := s.store.Tempers()
	if err != nil {
		refuse(c, err)
		return
	}
	all := slices.Clone(sketch.Tempers)
	for _, t := range own {
		kept := sketch.Temper{Name: t.Name}
		if err := json.Unmarshal(t.Dials, &kept.Dials); err == nil {
			all = append(all, kept)
		}
	}
	for i, t := range all {
		offer := TemperOffer{Temper: t, Own: i >= len(sketch.Tempers), Notes: []view.Note{}}
		request, err := json.Marshal(sketch.Request{Seed: 7, Count: 1, Dials: t.Dials, Rate: c.Query("rate"), Bars: bars})
		if err != nil {
			refuse(c, err)
			return
		}
		if made, err := proposals(p, clip, &ProposeRequest{Lane: c.Query("lane"), Sketch: request}, len(all), workOf(c)); err == nil {
			offer.Ticks, offer.Notes = made[0].Ticks, slices.DeleteFunc(made[0].Sound.Notes, func(n view.Note) bool { return n.At >= made[0].Ticks })
		}
		if gone := workOf(c).Waits(); gone != nil {
			refuse(c, gone)
			return
		}
		out.Tempers = append(out.Tempers, offer)
	}
	reply(c, http.StatusOK, out)
}

// compared tells in what the clips of a stack differ from one of them, ?with=, by default the first:
// settings in words, and the notes of each.
func (s *server) compared(c *gin.Context) {
	p, clip, err := s.clipOf(c)
	if err != nil {
		refuse(c, err)
		return
	}
	stack := p.Stack(clip.Head())
	first := &p.Clips[stack[0]]
	if with := c.Query("with"); with != "" {
		i := slices.IndexFunc(stack, func(k int) bool { return p.Clips[k].ID == with })
		if i < 0 {
			refuse(c, bad("with: no clip %q in the stack", with))
			return
		}
		first = &p.Clips[stack[i]]
	}
	out, err := versions(p, first, stack, workOf(c))
	if err != nil {
		refuse(c, err)
		return
	}
	reply(c, http.StatusOK, out)
}

// mostChanges is how many notes of a stack are told as changed.
const mostChanges = 20_000

// versions are clips of a stack beside the first, as many bars of all as fit one answer.
func versions(p *piece.Piece, first *piece.Clip, stack []int, work *budget.Budget) (out []Version, err error) {
	defer budget.Catch(&err)
	heard := make([]*compare.Heard, len(stack))
	bar := p.Bar().Export(view.PPQ)
	fits := int64(0) // up to where all are compared; 0: to their ends
	for i, k := range stack {
		performance, whole, err := view.Fitting(p, &p.Clips[k], view.Share(work, len(stack)))
		if err != nil {
			return nil, err
		}
		if heard[i] = compare.Hear(performance); !whole && (fits == 0 || heard[i].Ticks < fits) {
			fits = heard[i].Ticks
		}
	}
	one := slices.IndexFunc(stack, func(k int) bool { return &p.Clips[k] == first })
	changes := 0
	for i, k := range stack {
		own, now := &p.Clips[k], heard[i]
		next := Version{
			ID:       own.ID,
			Name:     own.Name,
			Bars:     int((now.Ticks + bar - 1) / bar),
			Ticks:    now.Ticks,
			BarTicks: bar,
			Lanes:    []VersionLane{},
			Words:    compare.Words(first, own),
			Notes:    compare.Notes(heard[one], now, fits, work),
		}
		if fits > 0 {
			next.Shortened = fmt.Sprintf("The first %s are compared: there is too much in them for one comparison.", render.Many(int(max(fits/bar, 1)), "bar"))
		}
		if changes += len(next.Notes); changes > mostChanges {
			next.Notes = next.Notes[:max(len(next.Notes)-(changes-mostChanges), 0)]
			changes = mostChanges
			next.Shortened = fmt.Sprintf("More than %d notes differ in the stack; not all of them are marked.", mostChanges)
		}
		for n := range now.Performance.Lanes {
			part := &now.Performance.Lanes[n]
			lane := VersionLane{part.ID, part.Name, part.Lane, true, []view.Note{}}
			for j := range part.Notes {
				note := &part.Notes[j]
				at, length := now.Performance.Span(note, view.PPQ)
				lane.Notes = append(lane.Notes, view.Note{At: at, Length: length, Pitch: int(note.Pitch), Velocity: int(note.Velocity)})
			}
			if len(lane.Notes) > 0 {
				next.Lanes = append(next.Lanes, lane)
			}
		}
		out = append(out, next)
	}
	return out, nil
}

// saveTemper keeps a temper of one's own, in place of one of its name: {"name","dials"}.
func (s *server) saveTemper(c *gin.Context) {
	var given struct {
		Name  string          `json:"name"`
		Dials json.RawMessage `json:"dials"`
	}
	if err := c.ShouldBindJSON(&given); err != nil {
		refuse(c, bad("%v", err))
		return
	}
	name := strings.TrimSpace(given.Name)
	if n := len([]rune(name)); n < 1 || n > piece.MaxName {
		fail(c, http.StatusUnprocessableEntity, "name", fmt.Sprintf("%d characters; allowed: 1..%d", n, piece.MaxName))
		return
	}
	if slices.ContainsFunc(sketch.Tempers, func(t sketch.Temper) bool { return t.Name == name }) {
		fail(c, http.StatusUnprocessableEntity, "name", fmt.Sprintf("%q is a built-in temper; allowed: another name", name))
		return
	}
	request, err := json.Marshal(map[string]json.RawMessage{"dials": given.Dials})
	if err != nil {
		refuse(c, bad("%v", err))
		return
	}
	if _, err := sketch.ReadRequest(request); err != nil {
		fail(c, http.StatusUnprocessableEntity, "dials", err.Error())
		return
	}
	if err := s.store.SaveTemper(store.Temper{Name: name, Dials: given.Dials}); err != nil {
		fail(c, http.StatusUnprocessableEntity, "", err.Error())
		return
	}
	c.Status(http.StatusNoContent)
}

// removeTemper takes one of one's own away: ?name=.
func (s *server) removeTemper(c *gin.Context) {
	err := s.store.DeleteTemper(c.Query("name"))
	switch {
	case errors.Is(err, store.ErrNoTemper):
		fail(c, http.StatusNotFound, "name", err.Error())
	case err != nil:
		refuse(c, err)
	default:
		c.Status(http.StatusNoContent)
	}
}
