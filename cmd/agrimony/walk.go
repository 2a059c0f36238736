package main

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/lane/phrase"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
)

// walkReport lists the first tones of a walk.
type walkReport struct {
	Rungs []int      `json:"rungs"` // MIDI, rising
	Order []int      `json:"order"` // rungs, from 0
	Plays []walkPlay `json:"plays"`
}

type walkPlay struct {
	Rung  int    `json:"rung"`
	Pitch int    `json:"pitch"`
	Name  string `json:"name"`
}

func walkCommand() *cobra.Command {
	var asJSON bool
	var in, order, unit string
	var octave, span, leap, count, seed int
	c := &cobra.Command{
		Use:   `walk "F#m7" --order converge --span 2 --key "F# dorian"`,
		Short: "List the first tones of a walk through a chord",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, words []string) error {
			for name, within := range map[string][3]int{"octave": {octave, -1, 9}, "span": {span, 1, 8}, "leap": {leap, -24, 24}, "count": {count, 1, 4096}} {
				if within[0] < within[1] || within[0] > within[2] {
					return usageError{fmt.Errorf("--%s: %d is out of range; allowed: %d..%d", name, within[0], within[1], within[2])}
				}
			}
			if !slices.Contains(piece.Units, unit) {
				return usageError{fmt.Errorf("--in: %q is not allowed; allowed: %s", unit, strings.Join(piece.Units, ", "))}
			}
			way, err := orderOf(order)
			if err != nil {
				return usageError{fmt.Errorf("--order: %w", err)}
			}
			key, err := pitch.ParseKey(in)
			if err != nil {
				return fmt.Errorf("--key: %w", err)
			}
			read, err := chord.Parse(words[0], key)
			if err != nil {
				return &chord.WordError{Index: 1, Word: words[0], Cause: err.Error()}
			}
			tones := phrase.Tones{Root: read.Root.Class()}
			for _, t := range read.From(key.Pitch(pitch.Place{Degree: 1}, octave)) {
				tones.Listed = append(tones.Listed, t.Pitch)
			}
			stairs := phrase.Climb(key, tones, span, piece.Leap{By: leap, In: unit}, way, pitch.Nearest)
			report := walkReport{Rungs: stairs.Rungs, Order: stairs.Order, Plays: []walkPlay{}}
			drawn := piece.Default()
			drawn.Seed = seed
			lane := piece.NewLane("phrase", "walk", "")
			pattern := render.PatternOf(drawn, &piece.Clip{ID: "walk"}, &lane)
			text := &strings.Builder{}
			for place := range count {
				rung, p := stairs.Rung(stairs.At(place, 0, func(shuffle bool, n int) uint64 {
					if shuffle {
						return pattern.Draw(int32(n%len(stairs.Rungs)), int32(n/len(stairs.Rungs)), -1)
					}
					return pattern.Draw(int32(place), 0, n)
				}))
				report.Plays = append(report.Plays, walkPlay{rung, p, key.Named(p)})
				fmt.Fprintf(text, "%s ", key.Named(p))
			}
			return show(c, asJSON, report, strings.TrimSpace(text.String())+"\n")
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "as JSON")
	c.Flags().StringVar(&in, "key", "C major", "the key of numerals and of leaps along the scale")
	c.Flags().StringVar(&order, "order", "up", strings.Join(piece.Orders, ", ")+", or rungs from 1: \"1,3,2\"")
	c.Flags().IntVar(&span, "span", 1, "how many passes through the tones")
	c.Flags().IntVar(&leap, "leap", 12, "how much higher each pass is")
	c.Flags().StringVar(&unit, "in", "semitones", "what the leap is counted in: semitones or scale")
	c.Flags().IntVar(&octave, "octave", 3, "the octave of the key's tonic")
	c.Flags().IntVar(&count, "count", 16, "how many tones are listed")
	c.Flags().IntVar(&seed, "seed", 0, "the seed of drawn orders")
	return c
}

// orderOf reads the name of an order, or rungs from 1 with commas between.
func orderOf(text string) (piece.Order, error) {
	if slices.Contains(piece.Orders, text) {
		return piece.Order{Name: text}, nil
	}
	var out piece.Order
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ' ' }) {
		rung, err := strconv.Atoi(part)
		if err != nil || rung < 1 || rung > piece.MaxOrder {
			return out, fmt.Errorf("%q is not allowed; allowed: %s, or numbers 1..%d", text, strings.Join(piece.Orders, ", "), piece.MaxOrder)
		}
		out.Rungs = append(out.Rungs, rung)
	}
	if len(out.Rungs) == 0 || len(out.Rungs) > piece.MaxOrder {
		return out, fmt.Errorf("%d rungs; allowed: 1..%d", len(out.Rungs), piece.MaxOrder)
	}
	return out, nil
}
