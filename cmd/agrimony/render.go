package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/chord"
	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/order"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/render"
	"agrimony/internal/core/review"
	"agrimony/internal/core/smf"
)

// clipFlags are what render and events share.
type clipFlags struct {
	clip  string
	bars  int
	until string
	ppq   int
	order bool
	from  int
	to    int
}

func (f *clipFlags) add(c *cobra.Command) {
	c.Flags().StringVar(&f.clip, "clip", "", "the id of the clip")
	c.Flags().IntVar(&f.bars, "bars", 0, "how many bars, 1..1024 (default: the clip's own length)")
	c.Flags().StringVar(&f.until, "until", "", "render until the full cycle ends (cycle) or meets the bar (realign)")
	c.Flags().BoolVar(&f.order, "order", false, "the running order instead of a clip")
	c.Flags().IntVar(&f.from, "from", 0, "with --order: where to begin, in 960ths of a quarter")
	c.Flags().IntVar(&f.to, "to", 0, "with --order: where to end, in 960ths of a quarter (default: its end)")
	c.Flags().IntVar(&f.ppq, "ppq", render.DefaultPPQ, "ticks a quarter note: 96, 480 or 960")
}

func (f *clipFlags) options() render.Options {
	return render.Options{Bars: f.bars, Until: f.until, PPQ: f.ppq}
}

// ordered tells whether the running order is asked for, and refuses what does not go with it.
func (f *clipFlags) ordered(c *cobra.Command) (bool, error) {
	if !f.order {
		for _, name := range []string{"from", "to"} {
			if c.Flags().Changed(name) {
				return false, usageError{fmt.Errorf("--%s is given without --order; allowed: with it", name)}
			}
		}
		return false, nil
	}
	for _, name := range []string{"clip", "bars", "until"} {
		if c.Flags().Changed(name) {
			return false, usageError{fmt.Errorf("--%s is given with --order; allowed: --from and --to", name)}
		}
	}
	if !slices.Contains(beat.Resolutions, f.ppq) {
		return false, usageError{fmt.Errorf("ppq: %d is not allowed; allowed: 96, 480, 960", f.ppq)}
	}
	if c.Flags().Changed("to") && f.to <= f.from {
		return false, usageError{fmt.Errorf("to: %d is not after %d; allowed: a place after it", f.to, f.from)}
	}
	if f.from < 0 {
		return false, usageError{fmt.Errorf("from: %d is below 0; allowed: 0 or more", f.from)}
	}
	return true, nil
}

func (f *clipFlags) orderOptions() order.Options {
	return order.Options{From: f.from, To: f.to, PPQ: f.ppq}
}

// performOrder reads the document and renders its running order.
func (f *clipFlags) performOrder(c *cobra.Command, path string) (*order.Performance, error) {
	p, err := readPiece(c, path)
	if err != nil {
		return nil, err
	}
	options := f.orderOptions()
	options.Budget = workOf(c)
	return order.Render(p, options)
}

func readPiece(c *cobra.Command, path string) (*piece.Piece, error) {
	data, err := readInput(c.InOrStdin(), path)
	if err != nil {
		return nil, err
	}
	p, err := piece.Read(data)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	return p, nil
}

// perform reads the document and renders the clip that the flags name.
func (f *clipFlags) perform(c *cobra.Command, path string) (*render.Performance, error) {
	if f.clip == "" {
		return nil, usageError{fmt.Errorf("--clip is missing: the id of the clip")}
	}
	if c.Flags().Changed("bars") && c.Flags().Changed("until") {
		return nil, usageError{fmt.Errorf("--bars and --until are both given; allowed: one of them")}
	}
	if c.Flags().Changed("bars") && f.bars == 0 { // asked for, which is not the same as left open
		return nil, usageError{render.BarsOutOfRange(0)}
	}
	options := f.options()
	if err := options.Check(); err != nil {
		return nil, usageError{err}
	}
	p, err := readPiece(c, path)
	if err != nil {
		return nil, err
	}
	clip, err := p.Clip(f.clip)
	if err != nil {
		return nil, err
	}
	options.Budget = workOf(c)
	return lane.Render(p, clip, options)
}

func readInput(in io.Reader, path string) ([]byte, error) {
	if path != "-" {
		file, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer file.Close()
		in = file
	}
	// One byte over the limit is enough for the reader to refuse the rest.
	return io.ReadAll(io.LimitReader(in, piece.MaxBytes+1))
}

func renderCommand() *cobra.Command {
	var flags clipFlags
	var fileType int
	var names, plain bool
	var out string
	c := &cobra.Command{
		Use:   "render PIECE.json --clip ID | --order",
		Short: "Render a clip, or the running order, to a Standard MIDI File",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, paths []string) error {
			if err := smf.CheckType(fileType); err != nil {
				return usageError{err}
			}
			options := smf.Options{Type: fileType, ChordNames: names}
			if ordered, err := flags.ordered(c); err != nil {
				return err
			} else if ordered {
				data, err := flags.orderFile(c, paths[0], options, plain)
				if err != nil {
					return err
				}
				return writeTo(c, out, data)
			}
			performance, err := flags.perform(c, paths[0])
			if err != nil {
				return err
			}
			if !plain {
				if options.Own, err = files.Pack(performance.Piece, performance.Clip, flags.options(), fileType); err != nil {
					return err
				}
			}
			data, err := smf.Encode(performance, options)
			if err != nil {
				return err
			}
			return writeTo(c, out, data)
		},
	}
	flags.add(c)
	c.Flags().IntVar(&fileType, "type", smf.DefaultType, "1: one track a lane; 0: one track")
	c.Flags().BoolVar(&names, "chord-names", true, "write the names of chords as markers where they begin")
	c.Flags().BoolVar(&plain, "plain", false, "leave out the document, from which the file can be opened again with every lane")
	c.Flags().StringVar(&out, "out", "", "the file to write (default: standard output)")
	return c
}

// orderFile is the file of the running order.
func (f *clipFlags) orderFile(c *cobra.Command, path string, options smf.Options, plain bool) (data []byte, err error) {
	performance, err := f.performOrder(c, path)
	if err != nil {
		return nil, err
	}
	if !plain {
		if options.Own, err = files.PackOrder(performance.Piece, f.orderOptions(), options.Type); err != nil {
			return nil, err
		}
	}
	return smf.EncodeOrder(performance, options)
}

// writeTo writes to a file, or without one to standard output.
func writeTo(c *cobra.Command, out string, data []byte) error {
	if out == "" {
		_, err := c.OutOrStdout().Write(data)
		return err
	}
	return writeWhole(out, data)
}

// writeWhole writes a file so that it is there whole or not at all. What is not
// a plain file, such as a device, is written to directly.
func writeWhole(path string, data []byte) error {
	if info, err := os.Stat(path); err == nil && !info.Mode().IsRegular() {
		if info.IsDir() {
			return fmt.Errorf("%s is a folder; allowed: a file", path)
		}
		return os.WriteFile(path, data, 0o644)
	}
	file, err := os.CreateTemp(filepath.Dir(path), ".agrimony-*")
	if err != nil {
		return fmt.Errorf("cannot write %s: %w", path, err)
	}
	defer os.Remove(file.Name()) // does nothing once it is renamed
	_, err = file.Write(data)
	if err == nil {
		err = file.Chmod(0o644)
	}
	if err == nil {
		err = file.Sync()
	}
	if closeErr := file.Close(); err == nil {
		err = closeErr
	}
	if err == nil {
		err = os.Rename(file.Name(), path)
	}
	if err != nil {
		return fmt.Errorf("cannot write %s: %w", path, err)
	}
	return nil
}

func eventsCommand() *cobra.Command {
	var flags clipFlags
	c := &cobra.Command{
		Use:   "events PIECE.json --clip ID | --order",
		Short: "Print the performance of a clip, or of the running order, as JSON",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, paths []string) error {
			if ordered, err := flags.ordered(c); err != nil {
				return err
			} else if ordered {
				performance, err := flags.performOrder(c, paths[0])
				if err != nil {
					return err
				}
				events := performance.Events()
				found, err := performance.OfClips()
				if err != nil {
					return err
				}
				events.Add(found)
				return printJSON(c.OutOrStdout(), events)
			}
			performance, err := flags.perform(c, paths[0])
			if err != nil {
				return err
			}
			for i := range performance.Lanes {
				workOf(c).Spend(render.ToldWork * int64(len(performance.Lanes[i].Notes)))
			}
			events := performance.Events()
			events.Findings = review.Reports(review.Clip(performance))
			return printJSON(c.OutOrStdout(), events)
		},
	}
	flags.add(c)
	return c
}

func printJSON(out io.Writer, value any) error {
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	if err := encoder.Encode(value); err != nil {
		return err
	}
	_, err := out.Write(text.Bytes())
	return err
}

func keyCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   `key "Eb dorian"`,
		Short: "List a key's notes and diatonic chords",
		Args:  args(cobra.MinimumNArgs(1)),
		RunE: func(c *cobra.Command, words []string) error {
			key, err := pitch.ParseKey(strings.Join(words, " "))
			if err != nil {
				return err
			}
			report := chord.Describe(key)
			if asJSON {
				return printJSON(c.OutOrStdout(), report)
			}
			out := &strings.Builder{}
			fmt.Fprintf(out, "%s %s: %s\n", report.Tonic, report.Scale, strings.Join(report.Notes, " "))
			for i := range report.Triads {
				triad, seventh := report.Triads[i], report.Sevenths[i]
				fmt.Fprintf(out, "%-8s %-8s %-14s %-10s %-10s %s\n", triad.Numeral, triad.Symbol, strings.Join(triad.Notes, " "),
					seventh.Numeral, seventh.Symbol, strings.Join(seventh.Notes, " "))
			}
			_, err = io.WriteString(c.OutOrStdout(), out.String())
			return err
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "as JSON")
	return c
}
