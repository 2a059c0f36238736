package main

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"slices"
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
	open  bool
	quiet bool
}

func (f *serveFlags) add(c *cobra.Command, data string) {
	c.Flags().StringVar(&f.addr, "addr", "127.0.0.1:7373", "the address to listen on")
	c.Flags().StringVar(&f.data, "data", data, "the folder that holds the database")
	c.Flags().StringSliceVar(&f.hosts, "host", nil, "a further host name to answer to, when --addr is not loopback")
	c.Flags().BoolVar(&f.quiet, "no-browser", false, "do not open a browser")
	c.Flags().BoolVar(&f.open, "open", false, "let other machines in, with the word in the address that is printed")
}

// bounded makes a server that waits for no one for ever.
func bounded(handler http.Handler) *http.Server {
	return &http.Server{
		Handler: handler, MaxHeaderBytes: 64 << 10,
		ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: 5 * time.Minute, IdleTimeout: 2 * time.Minute,
	}
}

// check refuses an address that other machines reach unless that is wanted.
func (f *serveFlags) check() error {
	host, _, err := net.SplitHostPort(f.addr)
	if err != nil {
		return fmt.Errorf("--addr: %w", err)
	}
	if ip := net.ParseIP(host); f.open || host == "localhost" || (ip != nil && ip.IsLoopback()) {
		return nil
	}
	return fmt.Errorf("--addr %s: other machines could reach it; allowed: an address of this machine alone, as 127.0.0.1:7373, or any with --open", f.addr)
}

// reached is an address under which a listener is reached: for one on all networks,
// that of the first.
func reached(address net.Addr) string {
	host, port, err := net.SplitHostPort(address.String())
	if ip := net.ParseIP(host); err != nil || ip == nil || !ip.IsUnspecified() {
		return address.String()
	}
	for _, own := range addresses() {
		if ip := net.ParseIP(own); ip.To4() != nil && !ip.IsLoopback() {
			return net.JoinHostPort(own, port)
		}
	}
	return net.JoinHostPort("127.0.0.1", port)
}

// addresses are this machine's on its networks.
func addresses() []string {
	own, err := net.InterfaceAddrs()
	if err != nil {
		return nil // then --host names them
	}
	var out []string
	for _, address := range own {
		if network, ok := address.(*net.IPNet); ok {
			out = append(out, network.IP.String())
		}
	}
	return out
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
			return serve(c, flags, "/piece/lantern-regatta", server.EnsureDemo)
		},
	}
	flags.add(c, dataFolder("demo"))
	return c
}

// fewMemory is how much memory, in bytes, the server begins to save: what is no longer needed
// is let go at once then, at the cost of some time.
const fewMemory = 350 << 20

// serve runs until it is interrupted. Requests under way are finished first, for as long as
// grace allows.
func serve(c *cobra.Command, flags serveFlags, path string, prepare func(*store.Store) error) error {
	if err := flags.check(); err != nil {
		return err
	}
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
	config := server.Config{Store: st, Files: web.Files(), Hosts: slices.Concat(server.Loopback, flags.hosts)}
	if flags.open {
		config.Token = rand.Text()
		config.Hosts = append(config.Hosts, addresses()...)
		path = cmp.Or(path, "/") + "?" + server.TokenName + "=" + config.Token
		fmt.Fprintln(c.ErrOrStderr(), "Whoever on the network has the address below can read, change and delete every piece; what is sent is not encrypted.")
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(fewMemory)
	}
	running := bounded(server.New(config))

	stop, cancel := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer cancel()
	failed := make(chan error, 1)
	go func() { failed <- running.Serve(listener) }()
	fmt.Fprintf(c.OutOrStdout(), "Agrimony is at http://%s%s (data in %s)\n", reached(listener.Addr()), path, flags.data)
	if !flags.quiet {
		address := fmt.Sprintf("http://%s%s", reached(listener.Addr()), path)
		if flags.open { // what a program is given to open, everyone on this machine may see
			way, err := passed(address)
			if err != nil {
				return err
			}
			defer os.Remove(way)
			address = way
		}
		openBrowser(address)
	}
	select {
	case err := <-failed:
		if !errors.Is(err, http.ErrServerClosed) {
			return err
		}
		return nil
	case <-stop.Done():
	}
	ending, done := context.WithTimeout(context.Background(), grace)
	defer done()
	err = running.Shutdown(ending)
	if errors.Is(err, context.DeadlineExceeded) { // what still works is given up
		return running.Close()
	}
	return err
}

// grace is how long requests under way may go on once the process is asked to end.
const grace = 2 * time.Second

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
			st, err := store.OpenBeside(data)
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
