package files

import (
	"agrimony/internal/core/intake"
	"agrimony/internal/core/lane"
)

// Offer is what a track may become, with what would differ.
type Offer struct {
	As      string         `json:"as"`
	Why     string         `json:"why,omitempty"` // it does not fit
	Differs intake.Differs `json:"differs"`
}

// TrackOffers are the offers for one track.
type TrackOffers struct {
	Track  int     `json:"track"` // from 1
	First  string  `json:"first"` // what is offered first: lane.Auto or one of the offers
	Offers []Offer `json:"offers"`
}

// together is how far the tones of a chord may be moved for its track to be offered as chords, in milliseconds: what is
// heard as one still.
const together = 50

// Offers tells for each track what it would differ as each kind that tracks can become. A track of several voices that
// fits chords is offered as chords first.
func (f *File) Offers(o Options) ([]TrackOffers, error) {
	var out []TrackOffers
	for _, as := range lane.Becomings() {
		each := o
		each.Choices = nil
		for _, c := range o.Choices {
			c.As = as
			each.Choices = append(each.Choices, c)
		}
		report, err := f.Report(each, as)
		if err != nil {
			return nil, err
		}
		if out == nil {
			out = make([]TrackOffers, len(report.Tracks))
		}
		for i := range report.Tracks {
			t := &report.Tracks[i]
			own := &out[i]
			own.Offers = append(own.Offers, Offer{as, t.Why, t.Differs})
			if own.Track == 0 {
				own.Track, own.First = t.Track, lane.Auto
			}
			if as == lane.Together && t.Voices > 1 && t.Why == "" && t.Differs.MS <= together && !f.Song.Parts[t.Track-1].Drums() {
				own.First = as
			}
		}
	}
	return out, nil
}
