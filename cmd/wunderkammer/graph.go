package main

import (
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/graph"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

func graphCommand() *cobra.Command {
	var as string
	cmd := &cobra.Command{
		Use:   "graph FILE[#composition] ['name'] [--as formula|text]",
		Short: "List the graphs of a project or of one composition, or print one: as the formulas of what it drives, or slip by slip",
		Args:  cobra.RangeArgs(1, 2),
		RunE: func(cmd *cobra.Command, args []string) error {
			if as != "formula" && as != "text" {
				return fmt.Errorf("a graph is printed as formula or as text, not as %s", as)
			}
			all, err := openCompositions(args[0])
			if err != nil {
				return err
			}
			out, names := cmd.OutOrStdout(), []string{}
			for _, c := range all {
				for _, g := range c.Graphs {
					if names = append(names, g.Name); len(args) == 1 {
						fmt.Fprintf(out, "%s\t%s\t%d slips\t%d wires\n", c.Name, g.Name, len(g.Slips), len(g.Wires))
					} else if strings.EqualFold(g.Name, args[1]) {
						return printGraph(out, c, g, as)
					}
				}
			}
			switch {
			case len(names) == 0:
				return fmt.Errorf("%s has no graphs", args[0])
			case len(args) == 2:
				return fmt.Errorf("%s has no graph named %q; there are: %s", args[0], args[1], strings.Join(names, ", "))
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&as, "as", "formula", "formula, or text: slip by slip")
	return cmd
}

// printGraph prints a graph with the names that things have today.
func printGraph(out io.Writer, c *scene.Composition, g *scene.Graph, as string) error {
	scope := wire.ScopeOf(layout.Of(c), -1, nil, "")
	if as == "text" {
		for _, s := range g.Slips {
			fmt.Fprintln(out, binding.Print(graph.Told(g, s), scope))
		}
		return nil
	}
	for _, s := range g.Slips {
		if s.Kind != scene.DriveSlip {
			continue
		}
		text, err := graph.Lower(g, s.ID)
		if err != nil {
			return err
		}
		for _, d := range graph.Drives(c, g.ID) {
			if d.Link.Slip != s.ID {
				continue
			}
			name := c.NameOf(d.Ref)
			if row, _ := c.RosterLink(d.RosterLink); row != nil {
				name = row.Name
			}
			fmt.Fprintf(out, "// %s\n", name)
		}
		fmt.Fprintln(out, binding.Print(text, scope))
	}
	return nil
}
