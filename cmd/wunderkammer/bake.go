package main

import (
	"fmt"
	"io"
	"os"
	"path"
	"strings"

	"github.com/spf13/cobra"

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
			if to < from || to-from > scene.MaxFrames {
				return fmt.Errorf("the range ends at %d, before it begins at %d", to, from)
			}
			var refs []scene.Ref
			for _, name := range args[1:] {
				found, err := findAll(c, name)
				if err != nil {
					return err
				}
				refs = append(refs, found...)
			}
			out := io.Writer(cmd.OutOrStdout())
			if file != "" {
				f, err := os.Create(file)
				if err != nil {
					return fmt.Errorf("%s cannot be written: %w", file, err)
				}
				defer func() {
					if e := f.Close(); err == nil {
						err = e
					}
				}()
				out = f
			}
			return csv.Write(out, c, engine.New(c), refs, from, to)
		},
	}
	cmd.Flags().IntVar(&from, "from", 0, "the first frame")
	cmd.Flags().IntVar(&to, "to", 0, "the last frame; the last of the composition where nothing is said")
	cmd.Flags().StringVarP(&file, "output", "o", "", "the file to write; standard output where nothing is said")
	return cmd
}

// findAll reads `Owner: property`, in which the owner may be a pattern.
func findAll(c *scene.Composition, text string) ([]scene.Ref, error) {
	owner, property, ok := strings.Cut(text, ":")
	if !ok || !strings.ContainsAny(owner, "*?") {
		ref, err := c.Find(text)
		return []scene.Ref{ref}, err
	}
	var out []scene.Ref
	for _, item := range c.Items {
		if fits, _ := path.Match(strings.ToLower(strings.TrimSpace(owner)), strings.ToLower(item.Name)); !fits {
			continue
		}
		for _, spec := range item.Specs() {
			name, part, _ := strings.Cut(strings.ToLower(strings.TrimSpace(property)), ".")
			if _, ok := spec.Type.Component(part); ok && strings.ToLower(spec.Name) == name {
				out = append(out, scene.Ref{Item: item.ID, Property: spec.Key, Component: part})
			}
		}
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no item named like %q has a property named %q", strings.TrimSpace(owner), strings.TrimSpace(property))
	}
	return out, nil
}
