package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/document"
	"agrimony/internal/core/op"
	"agrimony/internal/core/piece"
)

func schemaCommand() *cobra.Command {
	var typescript, edits bool
	c := &cobra.Command{
		Use:   "schema",
		Short: "Print the JSON Schema of the piece document",
		Args:  args(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			out := piece.Schema()
			if edits {
				out = op.Schema()
			}
			if typescript {
				out = typeScript()
			}
			_, err := c.OutOrStdout().Write(out)
			return err
		},
	}
	c.Flags().BoolVar(&edits, "edits", false, "print that of a list of edits instead")
	c.Flags().BoolVar(&typescript, "typescript", false, "print what the screens' build takes from the tables instead: unions and facts")
	return c
}

// typeScript writes what the tables of kinds and edits say and a generator of
// types cannot see: which lanes, steps and edits there are, and each field's
// title, unit, range, default and choices.
func typeScript() []byte {
	var out bytes.Buffer
	fmt.Fprintln(&out, "// Written by make types. Do not edit.")
	var contents, lanes, steps []string
	for _, k := range piece.Kinds {
		content, step := k.Types()
		contents = append(contents, content)
		lanes = append(lanes, fmt.Sprintf("(Common & %s & { kind: %q })", content, k.Name))
		if step != "" {
			contents, steps = append(contents, step), append(steps, step)
		}
	}
	var types, ops []string
	for _, name := range op.Names() {
		types = append(types, op.TypeName(name))
		ops = append(ops, fmt.Sprintf("({ op: %q } & %s)", name, op.TypeName(name)))
	}
	fmt.Fprintf(&out, "import type { Common, %s } from \"./piece.gen\";\n", strings.Join(contents, ", "))
	fmt.Fprintf(&out, "import type { %s } from \"./op.gen\";\n\n", strings.Join(types, ", "))
	fmt.Fprintf(&out, "/** A lane of any kind. */\nexport type Lane = %s;\n\n", strings.Join(lanes, " | "))
	fmt.Fprintf(&out, "/** A step of any kind of lane. */\nexport type Step = %s;\n\n", strings.Join(steps, " | "))
	fmt.Fprintf(&out, "/** An edit. */\nexport type Op = %s;\n\n", strings.Join(ops, " | "))
	fmt.Fprintf(
		&out,
		"/** What forms and rails need of each field: ranges, defaults, units, choices. */\nexport const facts = %s as const;\n",
		bytes.TrimSpace(document.Print(piece.Facts())),
	)
	fmt.Fprint(&out, "\n/** How each voice sounds where nothing else is said of it. */\nexport const voiceSounds = {\n")
	for _, sound := range piece.VoiceSounds() {
		text, err := json.Marshal(sound)
		if err != nil {
			panic(err) // it holds numbers and words
		}
		fmt.Fprintf(&out, "  %s: %s,\n", sound.Voice, text)
	}
	fmt.Fprint(&out, "} as const;\n")
	return out.Bytes()
}
