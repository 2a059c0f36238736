package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/files"
	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
	"agrimony/internal/core/pitch"
	"agrimony/internal/core/smf"
)

// importFlags are what import is told beside its file.
type importFlags struct {
	report, controls, plain, asWas bool
	as, tracks, only, key, out     string
}

func importCommand() *cobra.Command {
	var flags importFlags
	c := &cobra.Command{
		Use:   "import FILE.mid",
		Short: "Make a piece of a MIDI file, or report what is in it",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, paths []string) error {
			return flags.run(c, paths[0])
		},
	}
	f := c.Flags()
	f.BoolVar(&flags.report, "report", false, "print what is in the file, as JSON, instead")
	f.StringVar(&flags.as, "as", lane.Auto, "what its tracks become: "+strings.Join(append([]string{lane.Auto}, lane.Becomings()...), ", "))
	f.StringVar(&flags.tracks, "tracks", "", "the tracks that come in, as 2,3 (default: all)")
	f.StringVar(&flags.only, "only", "", "only the lowest, or the highest, of notes that sound together")
	f.BoolVar(&flags.controls, "controls", false, "wheel, pressure and controllers become lanes, too")
	f.StringVar(&flags.key, "key", "", `the key (default: the one that fits best), as "C minor"`)
	f.BoolVar(&flags.plain, "plain", false, "leave the document out that a file of Agrimony's own holds")
	f.BoolVar(&flags.asWas, "as-was", false, "take that document as it was, without what changed in the file since")
	f.StringVar(&flags.out, "out", "", "the file to write (default: standard output)")
	return c
}

func (f *importFlags) run(c *cobra.Command, path string) error {
	if f.plain && f.asWas {
		return usageError{errors.New("--plain and --as-was are both given; allowed: one of them")}
	}
	if f.as != lane.Auto && !slices.Contains(lane.Becomings(), f.as) {
		return usageError{fmt.Errorf("--as %q is not allowed; allowed: %s, %s", f.as, lane.Auto, strings.Join(lane.Becomings(), ", "))}
	}
	if f.only != "" && !slices.Contains(files.Onlys, f.only) {
		return usageError{fmt.Errorf("--only %q is not allowed; allowed: %s", f.only, strings.Join(files.Onlys, ", "))}
	}
	data, err := readMIDI(c.InOrStdin(), path)
	if err != nil {
		return err
	}
	file, err := files.Open(data, workOf(c))
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	if f.plain {
		file.Own, file.Why = nil, ""
	}
	options, err := f.options(file)
	if err != nil {
		return err
	}
	if f.report {
		report, err := file.Report(options, f.as)
		if err != nil {
			return fmt.Errorf("%s: %w", path, err)
		}
		return printJSON(c.OutOrStdout(), report)
	}
	p, remarks, err := f.piece(file, options, strings.TrimSuffix(filepath.Base(path), filepath.Ext(path)))
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	for _, remark := range remarks {
		fmt.Fprintln(c.ErrOrStderr(), "agrimony: "+path+": "+remark)
	}
	if f.out == "" {
		_, err = c.OutOrStdout().Write(piece.Write(p))
		return err
	}
	return writeWhole(f.out, piece.Write(p))
}

// readMIDI reads as much of a file as may be one, and a byte more, so that the rest is refused.
func readMIDI(in io.Reader, path string) ([]byte, error) {
	if path != "-" {
		file, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer file.Close()
		in = file
	}
	return io.ReadAll(io.LimitReader(in, smf.MaxFile+1))
}

// options are the choices that the flags make.
func (f *importFlags) options(file *files.File) (files.Options, error) {
	out := files.Options{Controls: f.controls}
	if f.key != "" {
		key, err := pitch.ParseKey(f.key)
		if err != nil {
			return out, usageError{fmt.Errorf("--key: %w", err)}
		}
		out.Key = &key
	}
	if file.Song == nil {
		return out, nil
	}
	chosen := make([]int, 0, len(file.Song.Parts))
	if f.tracks == "" {
		for i := range file.Song.Parts {
			chosen = append(chosen, i)
		}
	} else {
		for _, text := range strings.Split(f.tracks, ",") {
			n, err := strconv.Atoi(strings.TrimSpace(text))
			if err != nil || n < 1 || n > len(file.Song.Parts) {
				return out, usageError{fmt.Errorf("--tracks: there is no track %q; allowed: 1..%d", text, len(file.Song.Parts))}
			}
			if !slices.Contains(chosen, n-1) {
				chosen = append(chosen, n-1)
			}
		}
	}
	for _, i := range chosen {
		out.Choices = append(out.Choices, files.Choice{Part: i, As: f.as, Only: f.only})
	}
	return out, nil
}

// piece is what the file becomes, with what is to be said of it.
func (f *importFlags) piece(file *files.File, options files.Options, title string) (*piece.Piece, []string, error) {
	if file.Own != nil {
		return file.Reopened(f.asWas)
	}
	if f.asWas {
		why := file.Why
		if why == "" {
			why = "it holds no document of Agrimony's own"
		}
		return nil, nil, fmt.Errorf("--as-was: %s", why)
	}
	taken, err := file.Take(options)
	if err != nil {
		return nil, nil, err
	}
	remarks := taken.Remarks
	if file.Why != "" {
		remarks = append([]string{file.Why + "; it comes in plainly"}, remarks...)
	}
	p, err := file.Piece(taken, title)
	return p, append(remarks, taken.LeftOut()...), err
}
