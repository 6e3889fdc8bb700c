package main

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"wunderkammer/core/format"
	"wunderkammer/core/format/pack"
	"wunderkammer/draw"
	"wunderkammer/farm"
	"wunderkammer/web"
)

// drawer draws parts, with a browser that stays open while they are of one project.
type drawer struct {
	chromium string
	project  string
	studio   *draw.Studio
}

// Draw makes a part of an export.
func (d *drawer) Draw(ctx context.Context, project string, packed func() ([]byte, error), a format.Asked, tell func(done, of int)) (string, error) {
	if d.studio != nil && d.project == project {
		file, err := d.studio.Draw(ctx, a, tell)
		if err != nil { // whatever it was, the next part begins afresh
			d.close()
		}
		return file, err
	}
	d.close()
	data, err := packed()
	if err != nil {
		return "", fmt.Errorf("the project can't be fetched from the queue: %w", err)
	}
	opened, err := pack.Read(data)
	if err != nil {
		return "", err
	}
	// It lives longer than the part that it was opened for.
	if d.studio, err = draw.Open(context.WithoutCancel(ctx), opened.Project, opened.Files, web.FrontEnd(), d.chromium); err != nil {
		return "", err
	}
	d.project = project
	return d.Draw(ctx, project, packed, a, tell)
}

func (d *drawer) close() {
	if d.studio != nil {
		d.studio.Close()
		d.studio = nil
	}
}

func workCommand() *cobra.Command {
	var address, chromium string
	cmd := &cobra.Command{
		Use:   "work --queue nats://HOST:4222",
		Short: "Make this machine draw parts of the exports of others, until it is stopped",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if address == "" {
				return errors.New("name the queue to work for with --queue")
			}
			if _, err := draw.Chromium(chromium); err != nil {
				return err
			}
			slog.SetDefault(slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelWarn})))
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			q, err := farm.Outside(ctx, address)
			if err != nil {
				return err
			}
			defer q.Close()
			d := &drawer{chromium: chromium}
			defer d.close()
			out := cmd.ErrOrStderr()
			fmt.Fprintf(out, "working for %s\n", address)
			return q.Work(ctx, d, func(line string) { fmt.Fprintln(out, line) })
		},
	}
	cmd.Flags().StringVar(&address, "queue", "", "the queue that gives parts")
	cmd.Flags().StringVar(&chromium, "chromium", "", "the Chromium that draws; by default the one that is installed")
	return cmd
}

// shared draws an export in parts, by as many browsers here as are asked for and by all who work for the queue.
func (e *exporting) shared(ctx context.Context, opened *pack.Opened, rate int, out io.Writer) error {
	f := format.Of(e.asked.Format)
	if !f.Parted {
		return fmt.Errorf("%s is not made in parts; leave out --workers and --queue", f.Name)
	}
	packed, err := pack.Write(opened.Project, opened.Files)
	if err != nil {
		return err
	}
	folder, err := os.MkdirTemp("", "wunderkammer-farm-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	q, err := e.open(ctx, folder)
	if err != nil {
		return err
	}
	defer q.Close()
	if address := q.Address(); address != "" {
		fmt.Fprintf(out, "others can help with: wunderkammer work --queue %s\n", address)
	}
	working, stop := context.WithCancel(ctx)
	defer stop()
	ended := make(chan struct{}, e.workers)
	for range e.workers {
		go func() {
			d := &drawer{chromium: e.chromium}
			q.Work(working, d, func(string) {})
			d.close()
			ended <- struct{}{}
		}()
	}
	defer func() {
		stop()
		for range e.workers {
			<-ended
		}
	}()
	p := progress{out: out, began: time.Now()}
	job := farm.Job{Package: packed, Asked: e.asked, Pictures: e.asked.Pictures(rate), Each: e.each}
	parts, err := q.Run(ctx, job, folder, func(at farm.Progress) { p.with(at.Workers).tell(at.Done, at.Of) })
	if err != nil {
		return err
	}
	if err := e.join(ctx, opened, parts); err != nil {
		return err
	}
	fmt.Fprintf(out, "%s is written, after %.1f s\n", e.file, time.Since(p.began).Seconds())
	return nil
}

// open opens the queue: the one that is named, or one inside.
func (e *exporting) open(ctx context.Context, folder string) (*farm.Queue, error) {
	if e.queue != "" {
		return farm.Outside(ctx, e.queue)
	}
	return farm.Inside(ctx, folder, e.listen)
}

// join makes one file of the parts, in their order.
func (e *exporting) join(ctx context.Context, opened *pack.Opened, parts []string) error {
	if format.Of(e.asked.Format).Codec == "" {
		return whole(e.file, func(to io.Writer) error { return zipped(to, parts) })
	}
	studio, err := draw.Open(ctx, opened.Project, opened.Files, web.FrontEnd(), e.chromium)
	if err != nil {
		return err
	}
	defer studio.Close()
	made, err := studio.Join(ctx, e.asked, parts)
	if err != nil {
		return err
	}
	return put(made, e.file)
}

// zipped puts the files of some zips into one, as they are.
func zipped(to io.Writer, parts []string) error {
	out := zip.NewWriter(to)
	for _, part := range parts {
		in, err := zip.OpenReader(part)
		if err != nil {
			return err
		}
		for _, f := range in.File {
			if err := out.Copy(f); err != nil {
				in.Close()
				return err
			}
		}
		in.Close()
	}
	return out.Close()
}
