package main

import (
	"fmt"
	"io"
	"os"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

func bakeCommand() *cobra.Command {
	var from, to int
	var file string
	cmd := &cobra.Command{
		Use:   "bake FILE[#composition] 'Owner: property' ...",
		Short: "Write what properties are at every frame as comma-separated values; * and ? in an owner's name stand for any text and any character",
		Args:  cobra.MinimumNArgs(2),
		RunE: func(cmd *cobra.Command, args []string) (err error) {
			c, err := openComposition(args[0])
			if err != nil {
				return err
			}
			if !cmd.Flags().Changed("to") {
				to = c.Frames - 1
			}
			if to < from {
				return fmt.Errorf("the range ends at %d, before it begins at %d", to, from)
			}
			if err := within(c, float64(from), float64(to)); err != nil {
				return err
			}
			plan := engine.New(c)
			shown := shownWithin(plan, args[1:], float64(from), float64(to))
			scope := wire.ScopeOf(plan.Layout, -1, nil, "")
			var refs []scene.Ref
			for _, name := range args[1:] {
				found, err := findAll(plan, scope, name, shown)
				if err != nil {
					return err
				}
				refs = append(refs, found...)
			}
			out := io.Writer(cmd.OutOrStdout())
			if file != "" {
				f, err := os.Create(file)
				if err != nil {
					return fmt.Errorf("%s can't be written: %w", file, err)
				}
				defer func() {
					if e := f.Close(); err == nil {
						err = e
					}
				}()
				out = f
			}
			return csv.Write(out, c, plan, refs, from, to)
		},
	}
	cmd.Flags().IntVar(&from, "from", 0, "the first frame")
	cmd.Flags().IntVar(&to, "to", 0, "the last frame; by default the last of the composition")
	cmd.Flags().StringVarP(&file, "output", "o", "", "the file to write; standard output by default")
	return cmd
}

// shownWithin returns how many copies each item shows at most from one frame to another, where a name asks for it, and leaves the
// plan at the first one.
func shownWithin(plan *engine.Plan, names []string, from, to float64) map[scene.ID]int {
	most := map[scene.ID]int{}
	if !slices.ContainsFunc(names, pattern) {
		plan.Evaluate(from)
		return most
	}
	for _, item := range plan.Layout.Composition.Items {
		if item.Kind == scene.CopiesItem {
			most[item.ID] = 0
		}
	}
	for frame := to; len(most) > 0 && frame > from; frame-- {
		plan.Evaluate(frame)
		for id, n := range most {
			most[id] = max(n, plan.NumberOfCopies(id))
		}
	}
	plan.Evaluate(from)
	for id, n := range most {
		most[id] = max(n, plan.NumberOfCopies(id))
	}
	return most
}

// pattern reports whether a name of a property is one of many: its owner has * or ? in it, and it is no formula.
func pattern(text string) bool {
	owner, _, ok := strings.Cut(text, ":")
	return ok && strings.ContainsAny(owner, "*?") && !strings.ContainsAny(owner, "{(")
}

// findAll reads `Owner: property`, in which the owner may be a pattern: of copies it takes as many as are shown.
func findAll(plan *engine.Plan, scope *binding.Scope, text string, shown map[scene.ID]int) ([]scene.Ref, error) {
	owner, property, _ := strings.Cut(text, ":")
	if !pattern(text) {
		ref, err := find(plan.Layout.Composition, scope, text)
		return []scene.Ref{ref}, err
	}
	var out []scene.Ref
	for _, item := range plan.Layout.Laid() {
		if !scene.Matches(owner, item.Name) {
			continue
		}
		if of, n, copied := scene.LaneOf(item.ID); copied && n > shown[of] {
			continue
		}
		if ref, p := binding.Find("@"+string(item.ID)+":"+property, scope); p == nil {
			out = append(out, ref)
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no item named like %q has a property named %q", strings.TrimSpace(owner), strings.TrimSpace(property))
	}
	return out, nil
}
