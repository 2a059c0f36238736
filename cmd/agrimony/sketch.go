package main

import (
	"encoding/json"
	"fmt"

	"github.com/spf13/cobra"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/compare"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/lane/sketch"
	"agrimony/internal/core/piece"
)

// proposed is a sketch or a variation as the commands print it.
type proposed struct {
	Seed    int               `json:"seed"`
	Dials   any               `json:"dials"`
	Steps   []json.RawMessage `json:"steps,omitempty"`
	Notes   []json.RawMessage `json:"notes,omitempty"`
	Differs int               `json:"differs"`

	take func(l *piece.Lane)
}

// proposing is what the commands sketch and vary have in common.
type proposing struct {
	clip, lane, request, out string
	take                     int
	make                     func(scene sketch.Scene, request []byte) ([]proposed, error)
}

func (o *proposing) flags(c *cobra.Command) {
	c.Flags().StringVar(&o.clip, "clip", "", "the clip's id")
	c.Flags().StringVar(&o.lane, "lane", "", "the lane's id")
	c.Flags().StringVar(&o.request, "request", "", "the request, a JSON file (- reads standard input)")
	c.Flags().IntVar(&o.take, "take", 0, "write the piece with this one taken, from 1")
	c.Flags().StringVar(&o.out, "out", "", "the file to write (default: standard output)")
}

func (o *proposing) run(c *cobra.Command, path string) error {
	for name, value := range map[string]string{"clip": o.clip, "lane": o.lane, "request": o.request} {
		if value == "" {
			return usageError{fmt.Errorf("--%s is missing", name)}
		}
	}
	data, err := readInput(c.InOrStdin(), path)
	if err != nil {
		return err
	}
	p, err := piece.Read(data)
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	clip, err := p.Clip(o.clip)
	if err != nil {
		return err
	}
	own, err := laneOf(clip, o.lane)
	if err != nil {
		return err
	}
	request, err := readEdits(c.InOrStdin(), o.request)
	if err != nil {
		return err
	}
	made, err := o.make(sketch.Scene{Piece: p, Clip: clip, Lane: own, Kinds: lane.KindOf, Budget: workOf(c)}, request)
	if err != nil {
		return fmt.Errorf("%s: %w", o.request, err)
	}
	var text []byte
	if o.take == 0 && !c.Flags().Changed("take") {
		if text, err = json.Marshal(map[string]any{"sketches": made}); err != nil {
			return err
		}
		text = append(text, '\n')
	} else {
		if o.take < 1 || o.take > len(made) {
			return fmt.Errorf("--take: %d is out of range; allowed: 1..%d", o.take, len(made))
		}
		made[o.take-1].take(own)
		if err := piece.Check(p); err != nil {
			return err
		}
		text = piece.Write(p)
	}
	if o.out == "" {
		_, err = c.OutOrStdout().Write(text)
		return err
	}
	return writeWhole(o.out, text)
}

func laneOf(clip *piece.Clip, id string) (*piece.Lane, error) {
	for i := range clip.Lanes {
		if clip.Lanes[i].ID == id {
			return &clip.Lanes[i], nil
		}
	}
	return nil, fmt.Errorf("no lane %q in clip %q", id, clip.ID)
}

// written are the steps of a lane as the document writes them.
func written(l *piece.Lane) ([]json.RawMessage, error) {
	data, err := json.Marshal(json.RawMessage(piece.WriteClip(&piece.Clip{ID: "a", Bars: 1, Lanes: []piece.Lane{*l}})))
	if err != nil {
		return nil, err
	}
	var clip struct {
		Lanes []struct {
			Steps []json.RawMessage `json:"steps"`
		} `json:"lanes"`
	}
	if err := json.Unmarshal(data, &clip); err != nil {
		return nil, err
	}
	return clip.Lanes[0].Steps, nil
}

func sketchCommand() *cobra.Command {
	var tempers bool
	o := &proposing{make: func(scene sketch.Scene, request []byte) (out []proposed, err error) {
		r, err := sketch.ReadRequest(request)
		if err != nil {
			return nil, err
		}
		made, err := sketch.Make(scene, r)
		if err != nil {
			return nil, err
		}
		for k := range made {
			m := &made[k]
			one := proposed{Seed: m.Seed, Dials: m.Dials, Differs: m.Differs, take: func(l *piece.Lane) { sketch.Take(l, m) }}
			if m.Notes == nil {
				for i := range m.Steps {
					one.Steps = append(one.Steps, piece.WriteLineStep(&m.Steps[i]))
				}
			} else {
				for i := range m.Notes {
					one.Notes = append(one.Notes, piece.WriteNote(&m.Notes[i]))
				}
			}
			out = append(out, one)
		}
		return out, nil
	}}
	c := &cobra.Command{
		Use:   "sketch PIECE.json",
		Short: "Propose steps for a line by chance, from a few dials",
		Args: args(func(c *cobra.Command, paths []string) error {
			if tempers {
				return cobra.NoArgs(c, paths)
			}
			return cobra.ExactArgs(1)(c, paths)
		}),
		RunE: func(c *cobra.Command, paths []string) error {
			if tempers {
				return json.NewEncoder(c.OutOrStdout()).Encode(map[string]any{"tempers": sketch.Tempers})
			}
			return o.run(c, paths[0])
		},
	}
	o.flags(c)
	c.Flags().BoolVar(&tempers, "tempers", false, "list the tempers with their dials")
	return c
}

func varyCommand() *cobra.Command {
	o := &proposing{make: func(scene sketch.Scene, request []byte) (out []proposed, err error) {
		r, err := sketch.ReadVary(request)
		if err != nil {
			return nil, err
		}
		made, err := sketch.Vary(scene, r)
		if err != nil {
			return nil, err
		}
		for k := range made {
			m := &made[k]
			steps, err := written(&m.Lane)
			if err != nil {
				return nil, err
			}
			out = append(out, proposed{Seed: m.Seed, Dials: map[string]int{"share": m.Share}, Steps: steps, Differs: m.Differs, take: func(l *piece.Lane) { *l = m.Lane }})
		}
		return out, nil
	}}
	c := &cobra.Command{
		Use:   "vary PIECE.json",
		Short: "Propose variations of a lane's steps",
		Args:  args(cobra.ExactArgs(1)),
		RunE:  func(c *cobra.Command, paths []string) error { return o.run(c, paths[0]) },
	}
	o.flags(c)
	return c
}

func compareCommand() *cobra.Command {
	var a, b string
	var bars int
	c := &cobra.Command{
		Use:   "compare PIECE.json",
		Short: "Tell in what two clips differ: settings and notes",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, paths []string) error {
			for name, value := range map[string]string{"clip": a, "with": b} {
				if value == "" {
					return usageError{fmt.Errorf("--%s is missing", name)}
				}
			}
			data, err := readInput(c.InOrStdin(), paths[0])
			if err != nil {
				return err
			}
			p, err := piece.Read(data)
			if err != nil {
				return fmt.Errorf("%s: %w", paths[0], err)
			}
			first, err := p.Clip(a)
			if err != nil {
				return err
			}
			second, err := p.Clip(b)
			if err != nil {
				return err
			}
			if c.Flags().Changed("bars") && (bars < 1 || bars > beat.MaxBars) {
				return fmt.Errorf("--bars: %d is out of range; allowed: 1..%d", bars, beat.MaxBars)
			}
			report, err := compare.Clips(p, first, second, bars, workOf(c))
			if err != nil {
				return err
			}
			return json.NewEncoder(c.OutOrStdout()).Encode(report)
		},
	}
	c.Flags().StringVar(&a, "clip", "", "the clip's id")
	c.Flags().StringVar(&b, "with", "", "the id of the one that it is compared with")
	c.Flags().IntVar(&bars, "bars", 0, "how many bars (default: the longer clip, the other looping)")
	return c
}
