package main

import (
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"wunderkammer/core/ask"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/scene"
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
			if err := ask.Within(c, float64(from), float64(to)); err != nil {
				return err
			}
			plan := engine.New(c)
			shown := ask.Shown(plan, args[1:], frames(float64(from), float64(to)))
			var refs []scene.Ref
			for _, name := range args[1:] {
				found, err := ask.All(plan, name, shown)
				if err != nil {
					return err
				}
				for _, q := range found {
					if q.Ref() == (scene.Ref{}) {
						return fmt.Errorf("%s is a formula; properties are baked", name)
					}
					refs = append(refs, q.Ref())
				}
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
