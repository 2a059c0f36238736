// Command agrimony renders pieces to MIDI clips and serves the application.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"runtime/debug"
	"strings"

	"github.com/spf13/cobra"

	"agrimony/internal/core/budget"
	"agrimony/internal/core/render"
)

// version is what is built; the build sets it.
var version = "unknown"

// usageError is a wrong call: it ends the program with status 2.
type usageError struct{ error }

func main() {
	root := rootCommand()
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(750 << 20) // what is no longer needed is let go in time
	}
	if err := executed(root); err != nil {
		fmt.Fprintln(os.Stderr, "agrimony: "+oneLine(err))
		var usage usageError
		if errors.As(err, &usage) || strings.HasPrefix(err.Error(), "unknown command") {
			os.Exit(2)
		}
		os.Exit(1)
	}
}

// limits are what a command may cost: as many events as a file may have, and the time and memory that these
// take. Work is in units of package budget, some 40 ns each.
var limits = budget.Limits{Work: 80_000_000, Events: render.MaxEvents, Memory: 700 << 20, Answer: 1 << 30}

// workKey is under which a command's context has its budget.
type workKey struct{}

// workOf returns the budget of a command.
func workOf(c *cobra.Command) *budget.Budget { return c.Context().Value(workKey{}).(*budget.Budget) }

// rootCommand returns the program with its commands, each of which works within a budget.
func rootCommand() *cobra.Command {
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
	root.AddCommand(
		renderCommand(),
		eventsCommand(),
		importCommand(),
		editCommand(),
		sketchCommand(),
		varyCommand(),
		compareCommand(),
		keyCommand(),
		chordCommand(),
		nameCommand(),
		progressionCommand(),
		walkCommand(),
		schemaCommand(),
		serveCommand(),
		demoCommand(),
		backupCommand(),
	)
	for _, c := range root.Commands() {
		run := c.RunE
		c.RunE = func(c *cobra.Command, given []string) (err error) {
			defer budget.Catch(&err)
			c.SetContext(context.WithValue(c.Context(), workKey{}, budget.Of(limits, nil)))
			return run(c, given)
		}
	}
	return root
}

// executed runs a command; a fault of the program's own is an error like any other.
func executed(root *cobra.Command) (err error) {
	defer func() {
		if problem := recover(); problem != nil {
			err = fmt.Errorf("this is a fault of Agrimony's own (%v)", problem)
		}
	}()
	return root.ExecuteContext(context.Background())
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
