package server

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/budget"
	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/core/smf"
	"agrimony/internal/view"
)

// clipFile is what a request asks a file of a clip to hold.
type clipFile struct {
	piece  *piece.Piece
	clip   *piece.Clip
	render render.Options
	file   smf.Options
	plain  bool // without the document that it comes from
}

// ordered reads ?bars= or ?until=, ?ppq=, ?type=, ?names= and ?lanes=a,b.
func (s *server) ordered(c *gin.Context) (*clipFile, error) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		return nil, err
	}
	out := &clipFile{piece: from.Piece, file: smf.Default, render: render.Options{PPQ: render.DefaultPPQ}}
	if out.clip, err = from.Piece.Clip(c.Param("clip")); err != nil {
		return nil, bad("%v", err)
	}
	for name, into := range map[string]*int{"bars": &out.render.Bars, "ppq": &out.render.PPQ, "type": &out.file.Type} {
		text, given := c.GetQuery(name)
		if !given {
			continue
		}
		if *into, err = strconv.Atoi(text); err != nil {
			return nil, bad("%s: %q is not a whole number", name, text)
		}
		if *into == 0 && name == "bars" { // asked for, which is not the same as left open
			return nil, bad("%v", render.BarsOutOfRange(0))
		}
	}
	switch text := c.DefaultQuery("names", "yes"); text {
	case "yes", "no":
		out.file.ChordNames = text == "yes"
	default:
		return nil, bad("names: %q is not allowed; allowed: yes, no", text)
	}
	out.plain = c.Query("plain") == "yes"
	out.render.Until = c.Query("until")
	if lanes, given := c.GetQuery("lanes"); given {
		out.render.Lanes = strings.FieldsFunc(lanes, func(r rune) bool { return r == ',' })
		if out.render.Lanes == nil {
			out.render.Lanes = []string{}
		}
		for _, id := range out.render.Lanes {
			if !slices.ContainsFunc(out.clip.Lanes, func(l piece.Lane) bool { return l.ID == id }) {
				return nil, bad("lanes: no lane %q in clip %q", id, out.clip.ID)
			}
		}
	}
	if err := smf.CheckType(out.file.Type); err != nil {
		return nil, bad("%v", err)
	}
	if err := out.render.Check(); err != nil {
		return nil, bad("%v", err)
	}
	return out, nil
}

// file renders and encodes a clip, unless whoever asked for it goes away.
func (s *server) file(work *budget.Budget, o *clipFile) (*render.Performance, []byte, error) {
	o.render.Budget, o.render.Events = work, work.Limits().Events
	performance, err := lane.Render(o.piece, o.clip, o.render)
	if err != nil {
		return nil, nil, err
	}
	if !o.plain {
		if o.file.Own, err = files.Pack(o.piece, o.clip, o.render, o.file.Type); err != nil {
			return nil, nil, err
		}
	}
	data, err := smf.Encode(performance, o.file)
	return performance, data, err
}

func (o *clipFile) name() string {
	return fileName(o.piece.Title) + "-" + fileName(o.clip.Name) + ".mid"
}

func (s *server) midi(c *gin.Context) {
	o, err := s.ordered(c)
	if err != nil {
		refuse(c, err)
		return
	}
	_, data, err := s.file(workOf(c), o)
	if err != nil {
		refuse(c, err)
		return
	}
	attach(c, o.name())
	c.Data(http.StatusOK, "audio/midi", data)
}

func (s *server) summary(c *gin.Context) {
	o, err := s.ordered(c)
	if err != nil {
		refuse(c, err)
		return
	}
	performance, data, err := s.file(workOf(c), o)
	if err != nil {
		refuse(c, err)
		return
	}
	out := FileSummary{
		Name: o.name(), Bytes: len(data), Bars: performance.BarsLong().RatString(), Ticks: performance.Length.Export(o.render.PPQ),
		Seconds: float64(performance.Length) / float64(beat.Quarter) * 60 / o.piece.Tempo, Tracks: []FileTrack{}, Problems: []string{},
	}
	out.Lasts = view.BarsInWords(o.piece, out.Bars)
	if _, _, ok := performance.Key.Signature(); ok {
		out.Key = pitch.Pretty(performance.Key.String())
	}
	for i := range performance.Lanes {
		if part := &performance.Lanes[i]; !part.Empty {
			out.Tracks = append(out.Tracks, trackOf(performance, part))
		}
	}
	for _, f := range review.Clip(performance) {
		if f.Silent {
			out.Problems = append(out.Problems, f.Message)
		}
	}
	for _, t := range out.Tracks {
		if t.Left > 0 {
			out.Problems = append(
				out.Problems,
				fmt.Sprintf(
					"%s: a finer resolution keeps %s that would fall on the tick of another of the same pitch, and are left out.",
					t.Name,
					render.Many(t.Left, "note"),
				),
			)
		}
	}
	reply(c, http.StatusOK, out)
}

func trackOf(performance *render.Performance, part *render.Part) FileTrack {
	left := performance.Written(part, performance.PPQ, func(*render.Note, int64, int64) {})
	return trackFacts(part, left, func(note *render.Note) string {
		return nameIn(performance.Key, note, &performance.Clip.Lanes[part.Lane], performance.SourceOf(part))
	})
}

// trackFacts are those of a part that leaves so many notes out.
func trackFacts(part *render.Part, left int, name func(*render.Note) string) FileTrack {
	out := FileTrack{
		Name:     part.Name,
		Channel:  part.Channel,
		Last:     part.Channel,
		Notes:    len(part.Notes) - left,
		Left:     left,
		Bends:    len(part.Bends),
		Controls: len(part.Controls),
	}
	if len(part.Notes) == 0 {
		return out
	}
	if part.Zone != nil && part.Zone.Members > 0 {
		out.Last = part.Zone.Member(part.Zone.Members - 1)
	}
	low, high := &part.Notes[0], &part.Notes[0]
	for i := range part.Notes {
		if note := &part.Notes[i]; note.Pitch < low.Pitch {
			low = note
		} else if note.Pitch > high.Pitch {
			high = note
		}
	}
	out.Lowest, out.Highest = name(low), name(high)
	return out
}

// nameIn is what a note is called on its lane's ladder, where a drum has the drum's name; a layer
// of a drum too.
func nameIn(key pitch.Key, note *render.Note, lanes ...*piece.Lane) string {
	for _, own := range lanes {
		if own == nil {
			continue
		}
		for _, rung := range lane.Of(own).Ladder(own, key, []int{int(note.Pitch)}) {
			if rung.Pitch == int(note.Pitch) && rung.Name != "" {
				return rung.Name
			}
		}
	}
	return pitch.Pretty(key.Named(int(note.Pitch)))
}

// why explains ?note=, a note of ?lane= by its index in the view.
func (s *server) why(c *gin.Context) {
	from, err := s.store.Load(c.Param("id"))
	if err != nil {
		refuse(c, err)
		return
	}
	clip, err := from.Piece.Clip(c.Param("clip"))
	if err != nil {
		refuse(c, bad("%v", err))
		return
	}
	shown := s.views.get(from.ID, from.Version, clip.ID)
	if shown.view == nil {
		shown = keptView{from.ID, from.Version, nil, newID()}
		if shown.view, err = look(from.Piece, clip, nil, view.Whole(workOf(c))); err != nil {
			refuse(c, err)
			return
		}
		s.views.put(shown)
	}
	performance := shown.view.Performance()
	index, err := strconv.Atoi(c.Query("note"))
	if err != nil {
		refuse(c, bad("note: %q is not a whole number", c.Query("note")))
		return
	}
	for i := range performance.Lanes {
		part := &performance.Lanes[i]
		if part.ID == c.Query("lane") && index >= 0 && index < len(part.Notes) {
			note := &part.Notes[index]
			reply(c, http.StatusOK, Explanation{performance.Explain(part, note), performance.Why(part, note)})
			return
		}
	}
	fail(c, http.StatusNotFound, "", "there is no such note")
}

// attach names the file that an answer is to become: in plain letters for old
// programs, and whole for those that read RFC 6266.
func attach(c *gin.Context, name string) {
	plain := strings.Map(func(r rune) rune {
		if r > unicode.MaxASCII {
			return '_'
		}
		return r
	}, name)
	c.Header("Content-Disposition", `attachment; filename="`+plain+`"; filename*=UTF-8''`+url.PathEscape(name))
}

// fileName makes a file name of a title: its letters and digits, whatever their
// script, with hyphens between the words.
func fileName(title string) string {
	plain := strings.Join(strings.FieldsFunc(title, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsMark(r) && !unicode.IsDigit(r)
	}), "-")
	if plain == "" {
		return "untitled"
	}
	return plain
}
