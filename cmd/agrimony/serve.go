package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"agrimony/internal/server"
	"agrimony/internal/store"
	"agrimony/web"
)

// serveFlags are what serve and demo share.
type serveFlags struct {
	addr  string
	data  string
	hosts []string
}

func (f *serveFlags) add(c *cobra.Command, data string) {
	c.Flags().StringVar(&f.addr, "addr", "127.0.0.1:7373", "the address to listen on")
	c.Flags().StringVar(&f.data, "data", data, "the folder that holds the database")
	c.Flags().StringSliceVar(&f.hosts, "host", nil, "a further host name to answer to, when --addr is not loopback")
}

func dataFolder(name string) string {
	base, err := os.UserConfigDir()
	if err != nil {
		base = "."
	}
	return filepath.Join(base, "agrimony", name)
}

func serveCommand() *cobra.Command {
	var flags serveFlags
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the application",
		Args:  args(cobra.NoArgs),
		RunE:  func(c *cobra.Command, _ []string) error { return serve(c, flags, "", nil) },
	}
	flags.add(c, dataFolder("data"))
	return c
}

func demoCommand() *cobra.Command {
	var flags serveFlags
	c := &cobra.Command{
		Use:   "demo",
		Short: "Serve the application with the sample piece",
		Args:  args(cobra.NoArgs),
		RunE: func(c *cobra.Command, _ []string) error {
			return serve(c, flags, "/?piece=lantern-regatta", server.EnsureDemo)
		},
	}
	flags.add(c, dataFolder("demo"))
	return c
}

// serve runs until it is interrupted. Requests under way are finished first.
func serve(c *cobra.Command, flags serveFlags, path string, prepare func(*store.Store) error) error {
	listener, err := net.Listen("tcp", flags.addr)
	if err != nil {
		return fmt.Errorf("cannot listen on %s: %w", flags.addr, err)
	}
	defer listener.Close()
	st, err := store.Open(flags.data)
	if err != nil {
		return err
	}
	defer st.Close()
	if prepare != nil {
		if err := prepare(st); err != nil {
			return err
		}
	}
	handler := server.New(server.Config{Store: st, Files: web.Files(), Hosts: append(server.Loopback, flags.hosts...)})
	running := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}

	stop, cancel := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer cancel()
	failed := make(chan error, 1)
	go func() { failed <- running.Serve(listener) }()
	fmt.Fprintf(c.OutOrStdout(), "Agrimony is at http://%s%s (data in %s)\n", listener.Addr(), path, flags.data)
	select {
	case err := <-failed:
		if !errors.Is(err, http.ErrServerClosed) {
			return err
		}
		return nil
	case <-stop.Done():
	}
	ending, done := context.WithTimeout(context.Background(), 5*time.Second)
	defer done()
	return running.Shutdown(ending)
}

func backupCommand() *cobra.Command {
	var data string
	c := &cobra.Command{
		Use:   "backup FILE.db",
		Short: "Write a consistent copy of the database, also while it is served",
		Args:  args(cobra.ExactArgs(1)),
		RunE: func(c *cobra.Command, paths []string) error {
			if _, err := os.Stat(filepath.Join(data, store.FileName)); err != nil {
				return fmt.Errorf("there is no database in %s: %w", data, err)
			}
			st, err := store.Open(data)
			if err != nil {
				return err
			}
			defer st.Close()
			return st.Backup(paths[0])
		},
	}
	c.Flags().StringVar(&data, "data", dataFolder("data"), "the folder that holds the database")
	return c
}
