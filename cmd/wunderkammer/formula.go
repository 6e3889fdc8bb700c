package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"wunderkammer/core/ask"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/scene"
)

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
			fmt.Fprintln(cmd.OutOrStdout(), ask.Printed(t.Of, v))
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
