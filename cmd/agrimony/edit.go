package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"regexp"
	"sort"

	"github.com/spf13/cobra"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/edit"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

func editCommand() *cobra.Command {
	var out string
	c := &cobra.Command{
		Use:   "edit PIECE.json EDITS.json",
		Short: "Make edits of a piece, as the screens do",
		Args:  args(cobra.ExactArgs(2)),
		RunE: func(c *cobra.Command, paths []string) error {
			data, err := readInput(c.InOrStdin(), paths[0])
			if err != nil {
				return err
			}
			p, err := piece.Read(data)
			if err != nil {
				return fmt.Errorf("%s: %w", paths[0], err)
			}
			text, err := readEdits(c.InOrStdin(), paths[1])
			if err != nil {
				return err
			}
			next, err := edited(p, text, workOf(c))
			if err != nil {
				return fmt.Errorf("%s: %w", paths[1], err)
			}
			written, fits := piece.WriteWithin(next, piece.MaxBytes)
			if !fits {
				return fmt.Errorf("%s: the piece would have more than %d bytes; allowed: at most %d", paths[1], piece.MaxBytes, piece.MaxBytes)
			}
			return writeTo(c, out, written)
		},
	}
	c.Flags().StringVar(&out, "out", "", "the file to write (default: standard output)")
	return c
}

func readEdits(in io.Reader, path string) ([]byte, error) {
	if path != "-" {
		file, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer file.Close()
		in = file
	}
	text, err := io.ReadAll(io.LimitReader(in, piece.MaxBytes+1))
	if err == nil && len(text) > piece.MaxBytes {
		err = fmt.Errorf("%s has more than %d bytes", path, piece.MaxBytes)
	}
	return text, err
}

// edited makes all edits of a list, or none. The error gives the number, from 1, of the one that is
// refused.
func edited(p *piece.Piece, text []byte, work *budget.Budget) (*piece.Piece, error) {
	var items []json.RawMessage
	if err := json.Unmarshal(text, &items); err != nil {
		return nil, fmt.Errorf("is no list of edits (%v); allowed: [{\"op\":..}, ..]", err)
	}
	ops := make([]op.Op, len(items))
	for i, item := range items {
		if err := json.Unmarshal(item, &ops[i]); err != nil {
			return nil, fmt.Errorf("edit %d: %w", i+1, err)
		}
	}
	// As many at a time as one request may have.
	for first := 0; first < len(ops) || first == 0; first += edit.MaxOps {
		some := ops[min(first, len(ops)):min(first+edit.MaxOps, len(ops))]
		next, err := edit.ApplyWithin(p, some, work)
		if err != nil {
			return nil, numbered(err, first, p, some, work)
		}
		p = next
	}
	return p, nil
}

var ofEdit = regexp.MustCompile(`^ops\[(\d+)\]\.?`)

// numbered says of a refusal of edits of a piece, of which the first is one of so many, which of all it is of, from 1.
func numbered(err error, first int, p *piece.Piece, some []op.Op, work *budget.Budget) error {
	var fault *piece.Fault
	if !errors.As(err, &fault) {
		return err
	}
	var number int
	if match := ofEdit.FindStringSubmatch(fault.Path); match != nil {
		fmt.Sscan(match[1], &number)
		where := fault.Path[len(match[0]):]
		if where != "" {
			where += ": "
		}
		return fmt.Errorf("edit %d: %s%s", first+number+1, where, fault.Problem)
	}
	// The document as it would be is refused: by the first edit after which it is.
	number = sort.Search(len(some)-1, func(n int) bool {
		_, refused := edit.ApplyWithin(p, some[:n+1], work)
		return refused != nil
	})
	return fmt.Errorf("edit %d: %w", first+number+1, err)
}
