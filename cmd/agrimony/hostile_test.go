package main

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/server/hostile"
)

// The bounds that the soak holds commands to.
const (
	longestCommand = 5 * time.Second
	mostOfCommand  = 1 << 30
)

// Whatever is asked of a command, it ends with an answer or a refusal, and every command has its row in the table of
// hostile calls. With SOAK set it is held to time and memory.
func TestEveryCommandIsBounded(t *testing.T) {
	rows := map[string]int{}
	for i := range hostile.Commands {
		row := &hostile.Commands[i]
		rows[row.Route]++
		folder := t.TempDir()
		names := map[string]string{"PIECE": filepath.Join(folder, "piece.json"), "FILE": filepath.Join(folder, "file"), "OUT": filepath.Join(folder, "out")}
		if row.Document != nil {
			require.NoError(t, os.WriteFile(names["PIECE"], []byte(row.Document()), 0o600))
		}
		if row.Body != nil {
			require.NoError(t, os.WriteFile(names["FILE"], row.Body(), 0o600))
		}
		args := make([]string, len(row.Command))
		for k, arg := range row.Command {
			if args[k] = arg; names[arg] != "" {
				args[k] = names[arg]
			}
		}
		command := exec.Command(program, args...)
		var problems bytes.Buffer
		command.Stderr = &problems
		began := time.Now()
		err := command.Run() // what it prints is not kept
		took := time.Since(began)
		if err != nil {
			require.IsType(t, &exec.ExitError{}, err, row.Name())
		}
		usage, ok := command.ProcessState.SysUsage().(*syscall.Rusage)
		require.True(t, ok)
		memory := usage.Maxrss * 1024
		t.Logf("%s: status %d in %v with %d MB", row.Name(), command.ProcessState.ExitCode(), took.Round(time.Millisecond), memory>>20)
		assert.Contains(t, []int{0, 1, 2}, command.ProcessState.ExitCode(), row.Name())
		assert.NotContains(t, problems.String(), "a fault of Agrimony's own", row.Name())
		if os.Getenv("SOAK") != "" {
			assert.LessOrEqual(t, took, longestCommand, row.Name())
			assert.LessOrEqual(t, memory, int64(mostOfCommand), row.Name())
		}
	}
	for _, c := range rootCommand().Commands() {
		assert.Positive(t, rows[c.Name()], "%s has no row in the table of hostile calls", c.Name())
	}
}
