package main

import (
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
	"wunderkammer/press"
)

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
			d := &press.Drawer{Chromium: chromium}
			defer d.Close()
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
	if f := format.Of(e.asked.Format); !f.Parted {
		return fmt.Errorf("%s is not made in parts; leave out --workers and --queue", f.Name)
	}
	folder, err := os.MkdirTemp("", "wunderkammer-farm-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	by, end, err := e.open(ctx, folder)
	if err != nil {
		return err
	}
	defer end()
	if address := by.Queue.Address(); address != "" {
		fmt.Fprintf(out, "others can help with: wunderkammer work --queue %s\n", address)
	}
	p := progress{out: out, began: time.Now()}
	made, err := by.Make(ctx, opened, e.asked, rate, folder, func(at farm.Progress) { p.with(at.Workers).tell(at.Done, at.Of) })
	if err != nil {
		return err
	}
	if err := press.Put(made, e.file); err != nil {
		return err
	}
	fmt.Fprintf(out, "%s is written, after %.1f s\n", e.file, time.Since(p.began).Seconds())
	return nil
}

// pressing is how exports are made by many: by so many browsers here, over a queue outside or one that listens, so many pictures each.
type pressing struct {
	workers                 int
	queue, listen, chromium string
	each                    int
}

func (p *pressing) flags(cmd *cobra.Command, workers int) {
	f := cmd.Flags()
	f.IntVar(&p.workers, "workers", workers, "how many browsers draw exports here, each a part at a time; 0 leaves it to others")
	f.StringVar(&p.queue, "queue", "", "a queue that others work for, such as nats://farm:4222; by default one inside this process")
	f.StringVar(&p.listen, "queue-listen", "", "an address at which others reach the queue inside, such as 0.0.0.0:4222")
	f.IntVar(&p.each, "part", press.DefaultEach, "how many pictures a part has")
	f.StringVar(&p.chromium, "chromium", "", "the Chromium that draws; by default the one that is installed")
}

// others reports whether there is a queue that others can work for.
func (p *pressing) others() bool { return p.queue != "" || p.listen != "" }

func (p *pressing) check() error {
	if p.workers < 0 || p.workers > 64 || p.each < 1 {
		return errors.New("there are 0 to 64 workers here, and at least one picture in a part")
	}
	return nil
}

// open opens the queue, which keeps what it needs in a folder, and sets the browsers here to work until the context ends; end returns
// when all of it is closed.
func (p *pressing) open(ctx context.Context, folder string) (_ *press.Press, end func(), err error) {
	var q *farm.Queue
	if p.queue != "" {
		q, err = farm.Outside(ctx, p.queue)
	} else {
		q, err = farm.Inside(ctx, folder, p.listen)
	}
	if err != nil {
		return nil, nil, err
	}
	by := &press.Press{Queue: q, Chromium: p.chromium, Each: p.each}
	working, stop := context.WithCancel(ctx)
	wait := by.Work(working, p.workers)
	return by, func() {
		stop()
		wait()
		q.Close()
	}, nil
}
