// Command agrimony renders pieces to MIDI clips and serves the application.
package main

import (
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"
)

// version is what is built; the build sets it.
var version = "unknown"

// usageError is a wrong call: it ends the program with status 2.
type usageError struct{ error }

func main() {
	root := &cobra.Command{
		Use:           "agrimony",
		Version:       version,
		Short:         "Melodic step sequences that know their key, rendered as MIDI clips",
		SilenceUsage:  true,
		SilenceErrors: true,
		Args:          cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error {
			return usageError{errors.New("no command given; see agrimony --help")}
		},
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return usageError{err} })
	root.AddCommand(renderCommand(), eventsCommand(), importCommand(), editCommand(), sketchCommand(), varyCommand(), compareCommand(), keyCommand(), chordCommand(), nameCommand(), progressionCommand(), walkCommand(), schemaCommand(), serveCommand(), demoCommand(), backupCommand())
	if err := executed(root); err != nil {
		fmt.Fprintln(os.Stderr, "agrimony: "+oneLine(err))
		var usage usageError
		if errors.As(err, &usage) || strings.HasPrefix(err.Error(), "unknown command") {
			os.Exit(2)
		}
		os.Exit(1)
	}
}

// executed runs a command; a fault of the program's own is an error like any other.
func executed(root *cobra.Command) (err error) {
	defer func() {
		if problem := recover(); problem != nil {
			err = fmt.Errorf("this is a fault of Agrimony's own (%v)", problem)
		}
	}()
	return root.Execute()
}

func oneLine(err error) string { return strings.Join(strings.Fields(err.Error()), " ") }

// args makes a wrong number of arguments a wrong call.
func args(check cobra.PositionalArgs) cobra.PositionalArgs {
	return func(c *cobra.Command, given []string) error {
		if err := check(c, given); err != nil {
			return usageError{err}
		}
		return nil
	}
}
