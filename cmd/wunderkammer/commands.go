package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/ask"
	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/rehearse"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
	"wunderkammer/demo"
)

func root() *cobra.Command {
	cmd := &cobra.Command{
		Use:           "wunderkammer",
		Short:         "Wire a composition once, animate all of it from one panel",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	cmd.CompletionOptions.DisableDefaultCmd = true
	cmd.AddCommand(serveCommand(), demoCommand(), evalCommand(), checkCommand(), rehearseCommand(), formulaCommand(), graphCommand(), bakeCommand(), exportCommand(), workCommand(), importCommand(), handoffCommand(), backupCommand(), restoreCommand(), doctorCommand())
	return cmd
}

// printParticles prints one particle a line, the oldest first.
func printParticles(out io.Writer, c *scene.Composition, frame float64, name string) error {
	plan := engine.New(c)
	plan.Evaluate(frame)
	w := bufio.NewWriter(out)
	for i, item := range plan.Layout.Items {
		if item.Kind != scene.Emitter || !strings.EqualFold(item.Name, name) {
			continue
		}
		plan.Particles(int32(i), func(p *engine.Particle) {
			numbers := append(append(append(p.Place[:], p.Size), p.Moving[:]...), p.Colour[:]...)
			for k, x := range numbers {
				if k > 0 {
					w.WriteByte('\t')
				}
				w.WriteString(scene.Exact(x))
			}
			w.WriteByte('\n')
		})
		return w.Flush()
	}
	return fmt.Errorf("%s has no emitter named %q", c.Name, name)
}

func evalCommand() *cobra.Command {
	var frame, to float64
	var emitter string
	var copies bool
	cmd := &cobra.Command{
		Use:   "eval FILE[#composition] [--frame N [--to M]] ['Owner: property' ...]",
		Short: "Print values of properties and formulas at a frame, one per line; * and ? in an owner's name take all that match; without arguments, every property with its name",
		Args:  cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := openComposition(args[0])
			if err != nil {
				return err
			}
			if !cmd.Flags().Changed("to") {
				to = frame
			}
			if err := ask.Within(c, frame, to); err != nil {
				return err
			}
			if emitter != "" {
				return printParticles(cmd.OutOrStdout(), c, frame, emitter)
			}
			return eval(cmd.OutOrStdout(), c, frame, to, args[1:], copies)
		},
	}
	cmd.Flags().Float64Var(&frame, "frame", 0, "the frame to read")
	cmd.Flags().Float64Var(&to, "to", 0, "the last of a run of frames; each begins with a line \"frame N\"")
	cmd.Flags().BoolVar(&copies, "copies", false, "without arguments, also print the properties of all copies that are shown")
	cmd.Flags().StringVar(&emitter, "particles", "", "print the particles of the emitter with this name instead: x, y, z, size, speed in x and y, r, g, b, a")
	return cmd
}

func eval(out io.Writer, c *scene.Composition, from, to float64, names []string, copies bool) error {
	plan := engine.New(c)
	var asked []ask.Question
	shown := ask.Shown(plan, names, frames(from, to))
	for _, name := range names {
		more, err := ask.All(plan, name, shown)
		if err != nil {
			return err
		}
		asked = append(asked, more...)
	}
	w := bufio.NewWriter(out)
	for frame := from; frame <= to; frame++ {
		if from != to {
			fmt.Fprintf(w, "frame %v\n", frame)
		}
		plan.Evaluate(frame)
		for _, q := range asked {
			fmt.Fprintln(w, printed(q, frame))
		}
		if len(names) == 0 {
			printAll(w, plan, copies)
		}
	}
	return w.Flush()
}

// frames lists the frames from one to another, each a whole one behind the one before.
func frames(from, to float64) (out []float64) {
	for frame := from; frame <= to; frame++ {
		out = append(out, frame)
	}
	return out
}

// printed writes the answer to a question at a frame: of a formula, a colour as #rrggbbaa.
func printed(q ask.Question, frame float64) string {
	if q.Ref() != (scene.Ref{}) {
		return q.At(frame).String()
	}
	return ask.Printed(q.Type, q.At(frame))
}

// printAll prints every property with its name, those of the copies that are shown among them or not.
func printAll(w io.Writer, plan *engine.Plan, copies bool) {
	scope := wire.ScopeOf(plan.Layout, -1, nil, "")
	for i, item := range plan.Layout.Laid() {
		if of, n, copied := scene.LaneOf(item.ID); copied && (!copies || n > plan.NumberOfCopies(of)) {
			continue
		}
		for _, spec := range plan.Layout.Specs(int32(i)) {
			ref := scene.Ref{Item: item.ID, Property: spec.Key}
			fmt.Fprintf(w, "%s\t%s\n", binding.NameOf(ref, scope), plan.Value(ref))
		}
	}
}

// findings counts what is printed, a line each.
type findings struct{ all, errors int }

func (f *findings) print(out io.Writer, s check.Severity, c *scene.Composition, sentence string) {
	fmt.Fprintf(out, "%s\t%s\t%s\n", s, c.Name, sentence)
	f.all++
	if s == check.Error {
		f.errors++
	}
}

// end says so where there was nothing, and fails where there were errors.
func (f *findings) end(out io.Writer, nothing string) error {
	if f.all == 0 {
		fmt.Fprintln(out, nothing)
	}
	if f.errors > 0 {
		return failed{1, errors.New("")}
	}
	return nil
}

func checkCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "check FILE",
		Short: "Print the problems; exits with 1 if there are errors",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := openProject(args[0])
			if err != nil {
				return err
			}
			var told findings
			for _, c := range p.Compositions {
				plan := engine.New(c)
				for _, found := range append(check.Of(c, plan), check.Deep(c, plan)...) {
					told.print(cmd.OutOrStdout(), found.Severity, c, found.Sentence)
				}
			}
			return told.end(cmd.OutOrStdout(), "no problems found")
		},
	}
}

func rehearseCommand() *cobra.Command {
	var composition string
	var options rehearse.Options
	cmd := &cobra.Command{
		Use:   "rehearse FILE",
		Short: "Sweep all controls over their ranges and print what goes wrong; exits with 1 if there are errors",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p, err := openProject(args[0])
			if err != nil {
				return err
			}
			var told findings
			looked := 0
			for _, c := range p.Compositions {
				if composition != "" && !strings.EqualFold(c.Name, composition) {
					continue
				}
				looked++
				o := options
				o.Frame = min(o.Frame, c.Frames-1)
				r := rehearse.New(c, o)
				for range r.Run() {
				}
				for _, found := range r.Found() {
					told.print(cmd.OutOrStdout(), found.Severity, c, found.Sentence)
				}
			}
			if looked == 0 {
				return fmt.Errorf("there is no composition named %q", composition)
			}
			return told.end(cmd.OutOrStdout(), "nothing goes wrong")
		},
	}
	cmd.Flags().StringVar(&composition, "composition", "", "the only composition to rehearse; all, if absent")
	cmd.Flags().IntVar(&options.Frame, "frame", 0, "the frame at which controls are swept")
	cmd.Flags().BoolVar(&options.Overlaps, "overlaps", false, "also tell members of rows that overlap")
	return cmd
}

// openProject reads a package file, or builds the demo.
func openProject(file string) (*scene.Project, error) {
	opened, err := openPackage(file)
	if err != nil {
		return nil, err
	}
	return opened.Project, nil
}

// openPackage reads a package file, or builds the demo, with the pictures and sounds that it shows.
func openPackage(file string) (*pack.Opened, error) {
	if file == "demo" {
		p, err := demo.Build()
		return &pack.Opened{Project: p, Files: demo.Files()}, err
	}
	info, err := os.Stat(file)
	switch {
	case errors.Is(err, os.ErrNotExist):
		return nil, fmt.Errorf("there is no file %s; give a project package, or the word demo", file)
	case err != nil:
		return nil, err
	case info.IsDir():
		return nil, fmt.Errorf("%s is a folder; give a project package, or the word demo", file)
	case info.Size() > pack.MaxFile:
		return nil, fmt.Errorf("%s has %d MB, and no project file is larger than %d MB", file, info.Size()>>20, pack.MaxFile>>20)
	}
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	opened, err := pack.Read(data)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return opened, nil
}

// openComposition reads FILE or FILE#composition, by the composition's name or id.
func openComposition(arg string) (*scene.Composition, error) {
	all, err := openCompositions(arg)
	if err != nil {
		return nil, err
	}
	return all[0], nil
}

// openCompositions reads a project and returns the composition that is named behind its file, or all of them.
func openCompositions(arg string) ([]*scene.Composition, error) {
	file, name, named := strings.Cut(arg, "#")
	p, err := openProject(file)
	switch {
	case err != nil:
		return nil, err
	case !named:
		return p.Compositions, nil
	}
	c, err := ask.Composition(p, name)
	return []*scene.Composition{c}, err
}
