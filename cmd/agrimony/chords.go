package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/chord"
	"agrimony/internal/core/pitch"
)

// show prints a report as JSON or as text.
func show(c *cobra.Command, asJSON bool, report any, text string) error {
	if asJSON {
		return printJSON(c.OutOrStdout(), report)
	}
	_, err := io.WriteString(c.OutOrStdout(), text)
	return err
}

func chordCommand() *cobra.Command {
	var asJSON bool
	c := &cobra.Command{
		Use:   `chord "F#m7b5/A"`,
		Short: "Take a chord symbol apart",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, words []string) error {
			read, err := chord.ParseSymbol(words[0])
			if err != nil {
				return &chord.WordError{Index: 1, Word: words[0], Cause: err.Error()}
			}
			report := read.Explain()
			return show(c, asJSON, report, fmt.Sprintf("%s: %s (%s)\n", report.Symbol, strings.Join(report.Notes, " "), strings.Join(report.Intervals, " ")))
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "as JSON")
	return c
}

func nameCommand() *cobra.Command {
	var asJSON bool
	var in string
	c := &cobra.Command{
		Use:   `name "A C E G" [--key "C major"]`,
		Short: "Name notes, given from the lowest up",
		Args:  args(cobra.MinimumNArgs(1)),
		RunE: func(c *cobra.Command, words []string) error {
			var notes []pitch.Name
			seen := map[int]bool{}
			for i, word := range strings.Fields(strings.Join(words, " ")) {
				note, err := pitch.ParseName(word)
				if err != nil {
					return fmt.Errorf("word %d: %w", i+1, err)
				}
				if !seen[note.Class()] { // doubled tones change no name
					notes = append(notes, note)
				}
				seen[note.Class()] = true
			}
			if len(notes) == 0 || len(notes) > 12 {
				return fmt.Errorf("%d different notes; allowed: 1..12", len(notes))
			}
			var key *pitch.Key
			if c.Flags().Changed("key") {
				read, err := pitch.ParseKey(in)
				if err != nil {
					return fmt.Errorf("--key: %w", err)
				}
				key = &read
			}
			report := chord.Name(notes, key)
			text := report.Symbol
			if report.Numeral != "" {
				text += " (" + report.Numeral + ")"
			}
			if len(report.Others) > 0 {
				text += ", also " + strings.Join(report.Others, ", ")
			}
			return show(c, asJSON, report, text+"\n")
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "as JSON")
	c.Flags().StringVar(&in, "key", "", "the key that the numeral counts in")
	return c
}

func progressionCommand() *cobra.Command {
	var asJSON, smooth bool
	var in, bass string
	var octave int
	var voices chord.Range
	c := &cobra.Command{
		Use:   `progression "i VI V7/ii F#m7" --key "A natural minor"`,
		Short: "Lay a progression of numerals and symbols, voiced as written or smoothly",
		Args:  args(cobra.MinimumNArgs(1)),
		RunE: func(c *cobra.Command, words []string) error {
			if bass != "free" && bass != "keep" {
				return usageError{fmt.Errorf("--bass: %q is not allowed; allowed: free, keep", bass)}
			}
			if octave < -1 || octave > 9 {
				return usageError{fmt.Errorf("--octave: %d is out of range; allowed: -1..9", octave)}
			}
			if err := chord.CheckRange(voices.Low, voices.High); err != nil {
				return usageError{err}
			}
			key, err := pitch.ParseKey(in)
			if err != nil {
				return fmt.Errorf("--key: %w", err)
			}
			chords, err := chord.Read(strings.Join(words, " "), key)
			if err != nil {
				return err
			}
			var within *chord.Range
			if voices.Keep = bass == "keep"; smooth {
				within = &voices
			}
			report := chord.Lay(chords, key, octave, within)
			out := &strings.Builder{}
			for _, v := range report.Chords {
				fmt.Fprintf(out, "%-10s %-10s %-20s %v\n", v.Numeral, v.Symbol, strings.Join(v.Notes, " "), v.Pitches)
			}
			fmt.Fprintf(out, "movement %d semitones, with the way back\n", report.Movement)
			return show(c, asJSON, report, out.String())
		},
	}
	c.Flags().BoolVar(&asJSON, "json", false, "as JSON")
	c.Flags().StringVar(&in, "key", "C major", "the key that numerals count in")
	c.Flags().BoolVar(&smooth, "smooth", false, "voice it with the least movement")
	c.Flags().IntVar(&voices.Low, "low", 48, "the lowest MIDI pitch of smooth voices")
	c.Flags().IntVar(&voices.High, "high", 79, "the highest")
	c.Flags().StringVar(&bass, "bass", "free", "free, or keep: each chord's lowest tone stays its lowest")
	c.Flags().IntVar(&octave, "octave", 3, "the octave of the key's tonic")
	return c
}
