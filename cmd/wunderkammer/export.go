package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"math"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"wunderkammer/core/ask"
	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/format/out"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/scene"
	"wunderkammer/draw"
	"wunderkammer/press"
	"wunderkammer/web"
)

// exporting is the flags of an export.
type exporting struct {
	pressing
	asked   format.Asked
	file    string
	part    string // of the project, that a project file is of
	shutter float64
	samples int
}

func exportCommand() *cobra.Command {
	var e exporting
	var names []string
	for _, f := range format.Formats {
		names = append(names, f.Key)
	}
	cmd := &cobra.Command{
		Use:   "export FILE[#composition] [--as FORMAT] -o OUT",
		Short: "Write a composition as a file: " + strings.Join(names, ", ") + "; or a project, or a part of one, as a project file (" + pack.Extension + ")",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return e.run(cmd, args[0])
		},
	}
	f := cmd.Flags()
	f.StringVar(&e.asked.Format, "as", "", "the format; by default what the ending of the file says")
	f.StringVarP(&e.file, "output", "o", "", "the file to write")
	f.StringVar(&e.part, "only", "", "of a project file: composition (with all that it shows), hand-off (with its readings), recipe or set, which is named behind #")
	f.IntVar(&e.asked.From, "from", 0, "the first frame, or the only one")
	f.IntVar(&e.asked.To, "to", 0, "the last frame; by default the last of the composition")
	f.IntVar(&e.asked.Width, "width", 0, "the width in pixels; by default the composition's")
	f.IntVar(&e.asked.Height, "height", 0, "the height in pixels; by default what the width leads to")
	f.Float64Var(&e.asked.Rate, "rate", 0, "pictures a second; by default the composition's")
	f.BoolVar(&e.asked.Clear, "transparent", false, "leave out the background")
	f.IntVar(&e.asked.Loop, "loop", 0, "how often it plays, where the format says so; 0 is for ever")
	f.Float64Var(&e.shutter, "shutter", 0, "motion blur: the angle of the shutter in degrees, of which 360 are a frame")
	f.IntVar(&e.samples, "samples", 8, "motion blur: how many pictures a frame is the average of")
	f.Float64Var(&e.asked.Tolerance, "tolerance", format.DefaultTolerance, "how far shapes may be off, in pixels, where keys are thinned")
	e.pressing.flags(cmd, 1)
	return cmd
}

// byEnding returns the first format whose files have the ending of a name.
func byEnding(file string) (string, error) {
	ending := strings.TrimPrefix(strings.ToLower(filepath.Ext(file)), ".")
	for _, f := range format.Formats {
		if f.Extension == ending {
			return f.Key, nil
		}
	}
	return "", fmt.Errorf("%s does not say which format it is; name one with --as", file)
}

func (e *exporting) run(cmd *cobra.Command, arg string) error {
	if e.file == "" {
		return errors.New("name the file to write with -o")
	}
	if strings.EqualFold(filepath.Ext(e.file), pack.Extension) {
		return e.project(arg)
	}
	if e.part != "" {
		return fmt.Errorf("--only is for project files, whose names end in %s", pack.Extension)
	}
	if e.asked.Format == "" {
		key, err := byEnding(e.file)
		if err != nil {
			return err
		}
		e.asked.Format = key
	}
	opened, c, err := openToExport(arg)
	if err != nil {
		return err
	}
	if !cmd.Flags().Changed("to") {
		e.asked.To = c.Frames - 1
	}
	if e.shutter != 0 {
		e.asked.Blur = &format.Blur{Samples: e.samples, Angle: e.shutter}
	}
	if err := e.asked.Settle(c); err != nil {
		return err
	}
	if err := e.check(); err != nil {
		return err
	}
	if e.workers == 0 && !e.others() {
		return errors.New("nobody would draw: there are 1 to 64 workers here, or 0 where a queue has others")
	}
	if err := press.Whole(e.file, func(io.Writer) error { return errTried }); !errors.Is(err, errTried) {
		return err
	}
	slog.SetDefault(slog.New(slog.NewTextHandler(cmd.ErrOrStderr(), &slog.HandlerOptions{Level: slog.LevelWarn})))
	ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	out := cmd.ErrOrStderr()
	f, plan := format.Of(e.asked.Format), engine.New(c)
	plan.Evaluate(float64(e.asked.From))
	for _, lack := range append(f.Lacks(plan), format.Failing(plan)...) {
		fmt.Fprintf(out, "%s: %s\n", c.Item(lack.Item).Name, lack.What)
	}
	switch {
	case f.Drawn && (e.workers > 1 || e.others()):
		err = e.shared(ctx, opened, c.Rate, out)
	case f.Drawn:
		err = e.drawn(ctx, opened, out)
	default:
		err = e.written(ctx, plan, opened, out)
	}
	if ctx.Err() != nil {
		return errors.New("the export was cancelled")
	}
	return err
}

// project writes a project file: all of the project, or the part that is named.
func (e *exporting) project(arg string) error {
	file, name, named := strings.Cut(arg, "#")
	opened, err := openPackage(file)
	if err != nil {
		return err
	}
	part, p := scene.Part(e.part), opened.Project
	if named && part == scene.Whole {
		part = scene.CompositionPart
	}
	if named == (part == scene.Whole) {
		return fmt.Errorf("say which %s to write, behind the file: %s#name", part, file)
	}
	var of scene.ID
	switch part {
	case scene.Whole:
	case scene.RecipePart:
		of, err = called("recipe", name, p.Recipes, func(r *scene.SavedRecipe) (scene.ID, string) { return r.ID, r.Name })
	case scene.SetPart:
		of, err = called("set of controls", name, p.Sets, func(s *scene.ControlSet) (scene.ID, string) { return s.ID, s.Name })
	default:
		var c *scene.Composition
		if c, err = ask.Composition(p, name); err == nil {
			of = c.ID
		}
	}
	if err != nil {
		return err
	}
	if p, err = p.Parted(part, of); err != nil {
		return err
	}
	data, err := pack.WritePart(p, part, opened.Files)
	if err != nil {
		return err
	}
	return press.Write(data, e.file)
}

// called returns the id of what has a name, or that id.
func called[T any](word, name string, list []T, of func(T) (scene.ID, string)) (scene.ID, error) {
	for _, one := range list {
		if id, its := of(one); strings.EqualFold(its, strings.TrimSpace(name)) || string(id) == name {
			return id, nil
		}
	}
	return "", fmt.Errorf("there is no %s named %q", word, name)
}

// openToExport reads a package, and the composition of it that is named, or its first.
func openToExport(arg string) (*pack.Opened, *scene.Composition, error) {
	file, name, named := strings.Cut(arg, "#")
	opened, err := openPackage(file)
	if err != nil {
		return nil, nil, err
	}
	if !named {
		return opened, opened.Project.Compositions[0], nil
	}
	c, err := ask.Composition(opened.Project, name)
	return opened, c, err
}

// drawn has Chromium draw the file, and puts it where it is wanted.
func (e *exporting) drawn(ctx context.Context, opened *pack.Opened, out io.Writer) error {
	studio, err := draw.Open(ctx, opened.Project, opened.Files, web.FrontEnd(), e.chromium)
	if err != nil {
		return err
	}
	defer studio.Close()
	p := progress{out: out, began: time.Now()}
	made, err := studio.Draw(ctx, e.asked, p.tell)
	if err != nil {
		return err
	}
	if err := press.Put(made, e.file); err != nil {
		return err
	}
	fmt.Fprintf(out, "%s is written, after %.1f s\n", e.file, time.Since(p.began).Seconds())
	return nil
}

// written has the core write the file.
func (e *exporting) written(ctx context.Context, plan *engine.Plan, opened *pack.Opened, to io.Writer) error {
	w, err := out.Begin(plan, e.asked)
	if err != nil {
		return err
	}
	p := progress{out: to, began: time.Now()}
	for more := true; more && ctx.Err() == nil; {
		if more, err = w.Step(); err != nil {
			return err
		}
		p.tell(w.Done())
	}
	file, err := w.File()
	if err != nil {
		return err
	}
	if format.Of(e.asked.Format).Flat {
		file = reel.Embedded(file, func(id scene.AssetID) ([]byte, string, bool) {
			for _, f := range opened.Files {
				if f.ID == id {
					return f.Data, f.Type, true
				}
			}
			return nil, "", false
		})
	}
	if err := press.Write(file, e.file); err != nil {
		return err
	}
	fmt.Fprintf(to, "%s is written, %d kB, after %.1f s\n", e.file, (len(file)+512)/1024, time.Since(p.began).Seconds())
	return nil
}

// errTried ends the writing of a file that was only tried.
var errTried = errors.New("tried")

// progress tells how far an export is, once a second.
type progress struct {
	out         io.Writer
	began, said time.Time
	workers     int
}

// with says how many are at it.
func (p *progress) with(workers int) *progress {
	p.workers = workers
	return p
}

func (p *progress) tell(done, of int) {
	now := time.Now()
	if now.Sub(p.said) < time.Second && done < of {
		return
	}
	p.said = now
	left := now.Sub(p.began) / time.Duration(max(1, done)) * time.Duration(of-done)
	by := ""
	if p.workers > 0 {
		by = fmt.Sprintf(", %d at it", p.workers)
	}
	fmt.Fprintf(p.out, "picture %d of %d%s, about %.0f s left\n", done, of, by, math.Ceil(left.Seconds()))
}
