package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
	"wunderkammer/demo"
	"wunderkammer/draw"
	"wunderkammer/server"
	"wunderkammer/store"
	"wunderkammer/web"
)

// passwordVariable is the environment variable that holds the password of a server on a network.
const passwordVariable = "WUNDERKAMMER_PASSWORD"

// serving is the flags of a server.
type serving struct {
	pressing
	data, at  string
	hosts     []string
	cert, key string
	verbose   bool
}

func (s *serving) flags(cmd *cobra.Command, data string) {
	cmd.Flags().StringVar(&s.data, "data", data, "the folder of the database")
	cmd.Flags().StringVar(&s.at, "listen", "127.0.0.1:8080", "the address to listen on")
	cmd.Flags().StringSliceVar(&s.hosts, "host", nil, "other names, with their port, that the server is reached by")
	cmd.Flags().StringVar(&s.cert, "tls-cert", "", "the certificate file, to serve https")
	cmd.Flags().StringVar(&s.key, "tls-key", "", "the file of the certificate's key")
	cmd.Flags().BoolVar(&s.verbose, "verbose", false, "log every request")
	s.pressing.flags(cmd, 0)
}

func serveCommand() *cobra.Command {
	var s serving
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Start the application",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return s.run(cmd, databaseName, "", nil)
		},
	}
	s.flags(cmd, "data")
	return cmd
}

func demoCommand() *cobra.Command {
	var s serving
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Start the application with the demo project, in a database file of its own",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return s.run(cmd, "demo.db", "/project/"+string(demo.ID), addDemo)
		},
	}
	s.flags(cmd, "data")
	return cmd
}

// addDemo puts the demo project into a store that does not have it.
func addDemo(st *store.Store) error {
	p, err := demo.Build()
	if err != nil {
		return err
	}
	for _, deleted := range []bool{false, true} {
		projects, err := st.List(deleted)
		if err != nil {
			return err
		}
		for _, known := range projects {
			if known.ID == string(demo.ID) {
				if deleted {
					return st.Restore(known.ID)
				}
				return nil
			}
		}
	}
	if err := st.Keep(demo.Files()...); err != nil {
		return err
	}
	return st.Create(p)
}

func (s *serving) run(cmd *cobra.Command, file, start string, prepare func(*store.Store) error) error {
	host, port, err := net.SplitHostPort(s.at)
	if err != nil {
		return fmt.Errorf("--listen needs an address and a port such as 127.0.0.1:8080, not %q", s.at)
	}
	if (s.cert == "") != (s.key == "") {
		return fmt.Errorf("--tls-cert and --tls-key go together; give both or none")
	}
	level := slog.LevelInfo
	if s.verbose {
		level = slog.LevelDebug
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: level})))
	password := os.Getenv(passwordVariable)
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) && password == "" {
		return fmt.Errorf("listening on a network needs a password; set it in %s", passwordVariable)
	}
	if err := os.MkdirAll(s.data, 0o700); err != nil {
		return fmt.Errorf("the data folder can't be created: %w", err)
	}
	st, err := store.Open(filepath.Join(s.data, file))
	if err != nil {
		return err
	}
	defer st.Close()
	if prepare != nil {
		if err := prepare(st); err != nil {
			return err
		}
	}
	go func() {
		if swept, err := st.Sweep(time.Now()); err != nil {
			slog.Warn("what is no longer used could not be swept", "error", err)
		} else if swept != (store.Swept{}) {
			slog.Info("swept what is no longer used", "projects", swept.Projects, "pictures", swept.Pictures)
		}
	}()
	maker, scratch, end, err := s.press()
	if err != nil {
		return err
	}
	defer end()
	listener, err := net.Listen("tcp", s.at)
	if err != nil {
		return fmt.Errorf("can't listen on %s; is another program using it? (%w)", s.at, err)
	}
	_, port, _ = net.SplitHostPort(listener.Addr().String()) // port 0 asks for any
	hosts := append([]string{net.JoinHostPort(host, port), "localhost:" + port, "127.0.0.1:" + port, "[::1]:" + port}, s.hosts...)
	handler := server.New(server.Config{Store: st, FrontEnd: web.FrontEnd(), Hosts: hosts, Password: password, Maker: maker, Scratch: scratch, Example: &server.Example{ID: demo.ID, Build: func() (*scene.Project, []media.File, error) {
		p, err := demo.Build()
		return p, demo.Files(), err
	}}})
	defer handler.Close()
	srv := &http.Server{
		Handler:           handler,
		ReadHeaderTimeout: 10 * time.Second,
		ReadTimeout:       2 * time.Minute, // of a whole body
		WriteTimeout:      3 * time.Minute, // of a whole answer
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
		ErrorLog:          slog.NewLogLogger(slog.Default().Handler(), slog.LevelWarn),
	}
	scheme, serve := "http", func() error { return srv.Serve(listener) }
	if s.cert != "" {
		scheme, serve = "https", func() error { return srv.ServeTLS(listener, s.cert, s.key) }
	}
	fmt.Fprintf(cmd.OutOrStdout(), "Wunderkammer is open at %s://%s%s\n", scheme, hosts[0], start)
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	failure := make(chan error, 1)
	go func() { failure <- serve() }()
	select {
	case err := <-failure:
		return err
	case <-ctx.Done():
	}
	quit, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	if err := srv.Shutdown(quit); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}

// press opens what makes exports away from the pages, where workers or a queue are named.
func (s *serving) press() (maker server.Maker, scratch string, end func(), err error) {
	if err := s.check(); err != nil {
		return nil, "", nil, err
	}
	if s.workers == 0 && !s.others() {
		return nil, "", func() {}, nil
	}
	if _, err := draw.Chromium(s.chromium); err != nil { // who joins needs one, too
		return nil, "", nil, err
	}
	scratch = filepath.Join(s.data, "exports")
	if err := os.RemoveAll(scratch); err != nil { // of another run, which nobody knows of any more
		return nil, "", nil, fmt.Errorf("the folder of exports can't be emptied: %w", err)
	}
	by, end, err := s.open(context.Background(), filepath.Join(scratch, "queue"))
	if err != nil {
		return nil, "", nil, err
	}
	if address := by.Queue.Address(); address != "" {
		slog.Info("others can draw exports", "with", "wunderkammer work --queue "+address)
	}
	return by, scratch, end, nil
}
