package main

import (
	"fmt"
	"math"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// question is something whose value is printed at a frame.
type question func(frame float64) string

// askAll reads the name of a property, those of many by a pattern, which are printed in the order of the items, or a formula.
func askAll(c *scene.Composition, plan *engine.Plan, text string, shown map[scene.ID]int) ([]question, error) {
	if !pattern(text) {
		q, err := ask(c, plan, text)
		return []question{q}, err
	}
	refs, err := findAll(plan, wire.ScopeOf(plan.Layout, -1, nil, ""), text, shown)
	questions := make([]question, len(refs))
	for k, ref := range refs {
		questions[k] = func(float64) string { return plan.Value(ref).String() }
	}
	return questions, err
}

// ask reads the name of a property, or a formula.
func ask(c *scene.Composition, plan *engine.Plan, text string) (question, error) {
	ref, err := find(c, wire.ScopeOf(plan.Layout, -1, nil, ""), text)
	if err == nil {
		return func(float64) string { return plan.Value(ref).String() }, nil
	}
	compiled, _ := plan.Try(text, scene.Ref{})
	if errs := compiled.Errors(); len(errs) > 0 {
		if strings.ContainsAny(text, "{+*/()") {
			return nil, errs[0].Placed(text)
		}
		return nil, err
	}
	return func(frame float64) string {
		_, v := plan.Try(text, scene.Ref{}, frame)
		return printed(compiled.Type.Of, v[0])
	}, nil
}

// find reads `Owner: property`, of an item or of a copy.
func find(c *scene.Composition, scope *binding.Scope, text string) (scene.Ref, error) {
	found, p := binding.Find(text, scope)
	if p == nil {
		return found, nil
	}
	ref, err := c.Find(text)
	if _, _, copied := scene.LaneOf(ref.Item); err == nil && !copied {
		err = p
	}
	return ref, err
}

// printed writes a value; a colour as #rrggbbaa.
func printed(t scene.Type, v scene.Value) string {
	if t != scene.Colour {
		return v.String()
	}
	out := "#"
	for k := range 4 {
		out += fmt.Sprintf("%02x", int(math.Round(255*math.Min(1, math.Max(0, v.At(k))))))
	}
	return out
}

func formulaCommand() *cobra.Command {
	var at string
	var frame, fps float64
	var index, count int
	cmd := &cobra.Command{
		Use:   "formula 'EXPRESSION'",
		Short: "Print the value of a formula without a composition; points as [x, y, z], colours as #rrggbbaa",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if fps <= 0 || count < 1 || index < 0 || index >= count {
				return fmt.Errorf("the frame rate must be above 0, and the index must be from 0 to below the count")
			}
			s := &binding.Scope{Rate: fps, Frames: 12 * fps, Width: 1280, Height: 720, Index: index}
			if count > 1 {
				s.Row = &scene.Row{Members: make([]scene.Member, count)}
			}
			if at != "" {
				t, _, err := formula.Evaluate(at, s, 0)
				if err != nil || t.Len() != 1 {
					return fmt.Errorf("%s is not a time; write it as 1.5s or 30f", at)
				}
				frame = t.At(0) * fps
			}
			v, t, err := formula.Evaluate(args[0], s, frame)
			if err != nil {
				return err
			}
			fmt.Fprintln(cmd.OutOrStdout(), printed(t.Of, v))
			return nil
		},
	}
	cmd.Flags().StringVar(&at, "time", "", "the time, such as 1.5s or 30f")
	cmd.Flags().Float64Var(&frame, "frame", 0, "the frame, in place of the time")
	cmd.Flags().Float64Var(&fps, "fps", 25, "frames per second")
	cmd.Flags().IntVar(&index, "index", 0, "the index in a row, from 0")
	cmd.Flags().IntVar(&count, "count", 1, "how many members the row has")
	return cmd
}
