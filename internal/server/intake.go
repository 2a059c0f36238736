package server

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"agrimony/internal/core/files"
	"agrimony/internal/core/intake"
	"agrimony/internal/core/intake/song"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/midi"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/smf"
	"agrimony/internal/view"
)

// maxMIDI bounds files that come in.
const maxMIDI = smf.MaxFile + 1

// fileIn is a MIDI file that comes in with what is to become of it.
type fileIn struct {
	*files.File
	ask     TakeRequest
	options files.Options
	feel    *piece.Template // nil: the groove stays as it is
}

// bodyOf is the body of a request, a file.
func bodyOf(c *gin.Context) ([]byte, error) {
	data := make([]byte, c.Request.ContentLength)
	_, err := io.ReadFull(c.Request.Body, data)
	return data, err
}

// fileIn reads the body, a MIDI file, and ?ask=, a TakeRequest.
func (s *server) fileIn(c *gin.Context) (*fileIn, error) {
	data, err := bodyOf(c)
	if err != nil {
		return nil, err
	}
	out := &fileIn{}
	if text := c.Query("ask"); text != "" {
		decoder := json.NewDecoder(strings.NewReader(text))
		decoder.DisallowUnknownFields()
		if err := decoder.Decode(&out.ask); err != nil {
			return nil, bad("ask: %v", err)
		}
	}
	if out.File, err = files.Open(data, workOf(c)); err != nil {
		return nil, bad("%v", err)
	}
	if out.ask.Plain {
		if out.File.Own = nil; out.Song == nil {
			return nil, bad("the MIDI file sounds no note; allowed: one that does")
		}
	}
	if out.ask.Feel {
		onsets, err := smf.DecodeOnsets(data, workOf(c))
		if err != nil {
			return nil, bad("%v", err)
		}
		if out.feel, err = smf.Groove(onsets, out.named()); err != nil {
			return nil, bad("feel: %v", err)
		}
	}
	out.options.Controls = out.ask.Controls
	if out.ask.Key != "" {
		key, err := pitch.ParseKey(out.ask.Key)
		if err != nil {
			return nil, bad("key: %v", err)
		}
		out.options.Key = &key
	}
	for _, t := range out.ask.Tracks {
		out.options.Choices = append(out.options.Choices, files.Choice{Part: t.Track - 1, As: t.As, Only: t.Only})
	}
	out.ask.Name = out.named()
	return out, nil
}

// named is what comes in is called: as the file is, without its ending.
func (in *fileIn) named() string {
	name := []rune(strings.TrimSuffix(in.ask.Name, filepath.Ext(in.ask.Name)))
	if len(name) == 0 {
		return "From a file"
	}
	return string(name[:min(len(name), piece.MaxName)])
}

// report tells what is in a MIDI file, and what would become of it; nothing is changed.
func (s *server) report(c *gin.Context) {
	in, err := s.fileIn(c)
	if err != nil {
		refuse(c, err)
		return
	}
	in.options.Told = mostTold
	report, err := in.Report(in.options, lane.Auto)
	if err != nil {
		refuse(c, bad("%v", err))
		return
	}
	out := FileReport{
		Report: report, KeyNames: []string{}, Drawn: []FileDrawing{}, Offers: []files.TrackOffers{},
		Becomings: append([]string{lane.Auto}, lane.Becomings()...),
	}
	if in.ask.Each && in.Song != nil {
		if out.Offers, err = in.Offers(in.options); err != nil {
			refuse(c, bad("%v", err))
			return
		}
	}
	for _, fit := range report.Keys {
		out.KeyNames = append(out.KeyNames, pitch.Pretty(fit.Key))
	}
	key := in.BestKey([]files.Choice{{Part: 0}})
	for _, t := range report.Tracks {
		part := &in.Song.Parts[t.Track-1]
		drawn := drawingOf(part.Notes, report.Bars*int(in.Song.Meter.Bar()/piece.NoteTick))
		drawn.Lane, drawn.Voice = part.Title(), files.Heard(part)
		drawn.Names = [2]string{named(part, key, t.Low), named(part, key, t.High)}
		out.Drawn = append(out.Drawn, drawn)
	}
	reply(c, http.StatusOK, out)
}

// mostTold is how many tracks of a file are listed.
const mostTold = 5000

// named is what a pitch of a part is called: a drum by its name.
func named(part *song.Part, key pitch.Key, p int) string {
	if own, ok := midi.DrumOf(p); ok && part.Drums() {
		return own.Name
	}
	return pitch.Pretty(key.Named(p))
}

// mostDrawn is how many notes of a track are drawn small and heard.
const mostDrawn = 2000

func drawingOf(notes []intake.Note, length int) FileDrawing {
	out := FileDrawing{Ticks: length, Notes: []view.Note{}}
	for i := range notes[:min(len(notes), mostDrawn)] {
		n := &notes[i]
		out.Notes = append(out.Notes, view.Note{At: int64(n.At), Length: int64(n.Length), Pitch: n.Pitch, Velocity: n.Velocity})
	}
	return out
}

// take makes what is asked for of a file: for a piece (nil: a new one) it gives that with it, and the
// clip to show.
func (in *fileIn) take(p *piece.Piece, clip string) (next *piece.Piece, shown string, err error) {
	if in.Own != nil {
		own, _, err := in.Reopened(in.ask.AsWas)
		if err != nil {
			return nil, "", bad("%v", err)
		}
		if p == nil {
			return own, in.Own.Clip, nil
		}
		next, shown, err = files.AddClips(p, own, in.Own.Clip)
		return next, shown, err
	}
	if p != nil && in.ask.To == "lanes" && in.options.Key == nil {
		open, err := p.Clip(clip)
		if err != nil {
			return nil, "", bad("%v", err)
		}
		key := p.KeyOf(open)
		in.options.Key = &key
	}
	taken, err := in.Take(in.options)
	if err != nil {
		return nil, "", bad("%v", err)
	}
	if in.feel != nil {
		for i := range taken.Lanes {
			taken.Lanes[i].Share = piece.Share{} // it is played that way already
		}
	}
	switch {
	case p == nil:
		next, err = in.Piece(taken, in.ask.Name)
	case in.ask.To == "lanes":
		next, err = taken.AsLanes(p, clip)
		shown = clip
	default:
		next, shown, err = taken.AsClip(p, in.ask.Name)
	}
	if err != nil {
		return nil, "", bad("%v", err)
	}
	if in.feel != nil {
		next.Groove.Swing, next.Groove.Template = 50, in.feel
	}
	return next, shown, nil
}

// takeNew keeps a MIDI file as a new piece.
func (s *server) takeNew(c *gin.Context) {
	in, err := s.fileIn(c)
	if err != nil {
		refuse(c, err)
		return
	}
	p, _, err := in.take(nil, "")
	if err != nil {
		refuse(c, err)
		return
	}
	s.keep(c, p)
}

// takeInto adds what is in a MIDI file to a piece: ?key=&version=&clip=&ask=.
func (s *server) takeInto(c *gin.Context) {
	version, err := strconv.ParseInt(c.Query("version"), 10, 64)
	if err != nil {
		refuse(c, bad("version: %q is not a whole number", c.Query("version")))
		return
	}
	in, err := s.fileIn(c)
	if err != nil {
		refuse(c, err)
		return
	}
	change := s.changing(c, version, c.Query("clip"), Holds{})
	next, err := s.store.Edit(c.Param("id"), version, c.Query("key"), func(p *piece.Piece) (*piece.Piece, string, error) {
		change.was = p
		out, shown, err := in.take(p, change.clip)
		if err != nil {
			return nil, "", err
		}
		change.clip = shown
		return out, fmt.Sprintf("bring in %s", in.ask.Name), change.try(p, out)
	})
	change.end(next, err)
}
