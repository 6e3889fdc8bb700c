package main

import (
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/formula"
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
			plan.Evaluate(float64(from))
			scope := wire.ScopeOf(plan.Layout, -1, nil, "")
			var refs []scene.Ref
			for _, name := range args[1:] {
				found, err := findAll(plan, scope, name)
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

// findAll reads `Owner: property`, in which the owner may be a pattern: of copies it takes those that are shown at the frame last
// evaluated.
func findAll(plan *engine.Plan, scope *formula.Scope, text string) ([]scene.Ref, error) {
	owner, property, ok := strings.Cut(text, ":")
	if !ok || !strings.ContainsAny(owner, "*?") {
		ref, err := find(plan.Layout.Composition, scope, text)
		return []scene.Ref{ref}, err
	}
	var out []scene.Ref
	for _, item := range plan.Layout.Items {
		if !scene.Matches(owner, item.Name) {
			continue
		}
		if of, n, copied := scene.LaneOf(item.ID); copied && n > plan.NumberOfCopies(of) {
			continue
		}
		if ref, p := formula.Find("@"+string(item.ID)+":"+property, scope); p == nil {
			out = append(out, ref)
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no item named like %q has a property named %q", strings.TrimSpace(owner), strings.TrimSpace(property))
	}
	return out, nil
}
